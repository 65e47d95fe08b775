<script lang="ts">
  import type { Recording } from '$lib/client/api';
  import { phrases } from './phrases';

  /** The recording with a player of the browser's own: heard before it is decided what to make of it. */
  interface Props {
    recording: Recording;
    /** Where it begins. */
    fromMs: number;
  }
  let { recording, fromMs }: Props = $props();
  let player = $state<HTMLMediaElement | undefined>();
  const src = $derived(`/api/recordings/${recording.id}/media`);

  $effect(() => {
    if (player !== undefined) player.currentTime = fromMs / 1000;
  });
</script>

<!-- What is said in it is not written down yet: that is what this page is for. -->
<!-- svelte-ignore a11y_media_has_caption -->
{#if recording.media.hasVideo}
  <video bind:this={player} {src} controls preload="metadata" aria-label={phrases.listen.player}></video>
{:else}
  <audio bind:this={player} {src} controls preload="metadata" aria-label={phrases.listen.player}></audio>
{/if}

<style>
  video {
    width: 100%;
    max-height: min(44vh, 420px);
    border-radius: 6px;
    background: var(--screen);
  }
  audio {
    width: 100%;
  }
</style>
