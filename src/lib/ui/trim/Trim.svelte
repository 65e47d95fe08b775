<script lang="ts">
  import { onMount } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Acts from './Acts.svelte';
  import Text from './Text.svelte';
  import Waves from './Waves.svelte';
  import { phrases } from './phrases';

  /** The text with what is taken out of it, and under it the waveform of the passage in hand. */
  const desk = useTrackDesk();
  const { trimming } = desk;
  let text = $state<{ focus(): void } | undefined>();

  onMount(() => {
    const leave = trimming.enter();
    desk.surface = { focus: () => text?.focus(), enter: () => trimming.stepWord(1) };
    text?.focus();
    return () => {
      desk.surface = null;
      leave();
    };
  });
  $effect(() => trimming.follow());
  $effect(() => trimming.joins.judge());
  $effect(() => {
    if (trimming.soundFailure !== null) desk.say(trimming.soundFailure);
  });
</script>

<h2 class="unseen">{phrases.title}</h2>
<div class="trim">
  {#if trimming.failure !== null}
    <p class="told" role="alert">{trimming.failure}</p>
  {:else if trimming.trim === null}
    <p class="told soft">{phrases.loading}</p>
  {:else}
    <Text bind:this={text} />
  {/if}
  <Acts />
  <Waves />
</div>

<style>
  .trim {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto 186px;
    height: 100%;
    min-height: 0;
    background: var(--sheet);
  }
  .told {
    padding: 30px 52px;
  }
</style>
