<script lang="ts">
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import Square from '@lucide/svelte/icons/square';
  import { api, type SoundSource } from '$lib/client/api';
  import { drawWave } from './wave-strip';
  import { messageOf } from '$lib/core/message-of';
  import { phrases } from './phrases';

  interface Props {
    recordingId: string;
    durationMs: number;
    /** Where listening begins. */
    fromMs: number;
    /** `null`: the first stream, its channels together. */
    source: SoundSource | null;
    onFailure: (message: string) => void;
  }
  let { recordingId, durationMs, fromMs, source = $bindable(), onFailure }: Props = $props();
  let sources = $state.raw<readonly SoundSource[]>([]);
  let isOpen = $state(false);
  let heard = $state.raw<SoundSource | null>(null);
  let player = $state<HTMLAudioElement | undefined>();

  const fail = (error: unknown): void => onFailure(messageOf(error));

  $effect(() => {
    api.sources(recordingId).then((found) => (sources = found), fail);
  });

  function wave(canvas: HTMLCanvasElement, one: SoundSource) {
    api
      .sourceLevels(recordingId, one)
      .then((levels) => drawWave(canvas, levels, { durationMs, height: 30, stretch: null }), fail);
  }
  function listen(one: SoundSource): void {
    const wasHeard = heard === one;
    player?.pause();
    heard = null;
    if (wasHeard || player === undefined) return;
    player.src = api.sourceSampleUrl(recordingId, one, fromMs);
    heard = one;
    player.play().catch(fail);
  }
</script>

{#if sources.length > 1}
  <details bind:open={isOpen}>
    <summary>{phrases.sources.whereTheSpeechIs} <span class="soft">{source?.name ?? sources[0]!.name}</span></summary>
    {#if isOpen}
      <ul>
        {#each sources as one, at (one.name)}
          <li>
            <label
              ><input
                type="radio"
                name="source"
                checked={source === null ? at === 0 : source.name === one.name}
                onchange={() => (source = at === 0 ? null : one)}
              />
              {one.name}</label
            >
            <canvas height="30" aria-hidden="true" use:wave={one}></canvas>
            <button
              class="act quiet"
              aria-label="{heard === one ? phrases.sources.stop : phrases.sources.listenTo} {one.name}"
              onclick={() => listen(one)}
            >
              {#if heard === one}<Square size={16} />{:else}<Volume2 size={16} />{/if}
            </button>
          </li>
        {/each}
      </ul>
    {/if}
  </details>
{/if}
<audio bind:this={player} onended={() => (heard = null)}></audio>

<style>
  details {
    width: 100%;
  }
  summary {
    font-weight: 700;
    cursor: pointer;
  }
  summary .soft {
    font-weight: 400;
  }
  li {
    display: grid;
    grid-template-columns: 200px minmax(0, 1fr) auto;
    align-items: center;
    gap: 12px;
    padding: 4px 0;
  }
  canvas {
    width: 100%;
    height: 30px;
    background: var(--paper);
  }
</style>
