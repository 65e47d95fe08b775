<script lang="ts">
  import { clamp, formatClock, parseClock, type Span, toSpan } from '$lib/core/time';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { drawWave } from './wave-strip';
  import { phrases } from './phrases';

  interface Props {
    recordingId: string;
    durationMs: number;
    /** `null`: the whole recording. */
    stretch: Span | null;
  }
  let { recordingId, durationMs, stretch = $bindable() }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();
  let levels = $state.raw<Uint8Array | null>(null);
  let failure = $state<string | null>(null);
  let dragFrom: number | null = null;
  const HEIGHT = 56;
  const LEAST_MS = 500;

  $effect(() => {
    api.levels(recordingId).then(
      (found) => (levels = found),
      (error: unknown) => (failure = messageOf(error))
    );
  });

  $effect(() => {
    if (canvas && levels !== null) drawWave(canvas, levels, { durationMs, height: HEIGHT, stretch });
  });

  const msAt = (event: PointerEvent & { currentTarget: HTMLElement }): number => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.round(clamp((event.clientX - box.left) / box.width, 0, 1) * durationMs);
  };
  function choose(fromMs: number, toMs: number): void {
    const [startMs, endMs] = [Math.min(fromMs, toMs), Math.max(fromMs, toMs)];
    const isWhole = endMs - startMs < LEAST_MS || (startMs <= 0 && endMs >= durationMs);
    stretch = isWhole ? null : toSpan({ startMs, endMs });
  }
  function type(edge: 'start' | 'end', input: HTMLInputElement): void {
    const ms = parseClock(input.value);
    const now = stretch ?? { startMs: 0, endMs: durationMs };
    if (ms !== null) {
      const wanted = clamp(ms, 0, durationMs);
      if (edge === 'start' && wanted < now.endMs) choose(wanted, now.endMs);
      if (edge === 'end' && wanted > now.startMs) choose(now.startMs, wanted);
    }
    input.value = shown(edge);
  }
  const shown = (edge: 'start' | 'end'): string =>
    formatClock(edge === 'start' ? (stretch?.startMs ?? 0) : (stretch?.endMs ?? durationMs), 1);
</script>

<fieldset>
  <legend>{phrases.stretch.howMuchOfIt}</legend>
  {#if failure !== null}<p class="soft">{failure}</p>{/if}
  <!-- The two fields below do the same by the keyboard. -->
  <canvas
    bind:this={canvas}
    height={HEIGHT}
    aria-hidden="true"
    title={phrases.stretch.dragOverThePart}
    onpointerdown={(event) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      dragFrom = msAt(event);
    }}
    onpointermove={(event) => dragFrom !== null && choose(dragFrom, msAt(event))}
    onpointerup={() => (dragFrom = null)}
    onlostpointercapture={() => (dragFrom = null)}
  ></canvas>
  <p class="times">
    <label
      >{phrases.stretch.from}
      <input
        class="field mono"
        size="8"
        value={shown('start')}
        onchange={(event) => type('start', event.currentTarget)}
      /></label
    >
    <label
      >{phrases.stretch.to}
      <input
        class="field mono"
        size="8"
        value={shown('end')}
        onchange={(event) => type('end', event.currentTarget)}
      /></label
    >
    {#if stretch === null}
      <span class="soft">{phrases.stretch.allOfItDrag}</span>
    {:else}
      <button class="act" onclick={() => (stretch = null)}>{phrases.stretch.allOfIt}</button>
    {/if}
  </p>
</fieldset>

<style>
  fieldset {
    width: 100%;
  }
  legend {
    margin-bottom: 4px;
    font-weight: 700;
  }
  canvas {
    display: block;
    width: 100%;
    height: 56px;
    background: var(--paper);
    cursor: crosshair;
    touch-action: none;
  }
  .times {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 12px;
    margin-top: 8px;
  }
</style>
