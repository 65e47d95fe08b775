<script lang="ts">
  import type { Spot } from '$lib/core/track';
  import { clamp } from '$lib/core/time';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { snapSpot, type Snapped } from './snap';
  import { phrases } from './phrases';

  /** A frame around the captions on the picture, by which they are dragged, and moved by arrow keys. */
  const desk = useTrackDesk();
  const { dressing } = desk;

  const STEP = 0.5;
  const FAR_STEP = 5;

  const shot = $derived(dressing.seen.find(({ cueId }) => cueId === desk.cueId) ?? dressing.seen[0]);
  const drawing = $derived(shot?.composed.drawing);
  const frame = $derived.by(() => {
    if (drawing === undefined || drawing.runs.length === 0) return null;
    const { block, width, height } = drawing;
    const down = shot?.downPx ?? 0;
    return {
      left: (block.x / width) * 100,
      top: ((block.y + down) / height) * 100,
      width: (block.width / width) * 100,
      height: (block.height / height) * 100
    };
  });
  const middle: Spot | null = $derived(
    frame === null ? null : { xPercent: frame.left + frame.width / 2, yPercent: frame.top + frame.height / 2 }
  );

  let handle = $state<HTMLElement | undefined>();
  let grip: { readonly pointer: number; readonly dx: number; readonly dy: number } | null = null;
  let snapped: Snapped | null = $state.raw(null);

  /** A cue that stands where it wants is moved by itself, whatever is dressed. */
  function reach(): void {
    const cue = desk.track.cues.find(({ id }) => id === shot?.cueId);
    if (dressing.scope !== 'cues' && cue !== undefined && cue.placement !== null) {
      if (desk.cueId !== cue.id) desk.chooseCue(cue);
      dressing.scope = 'cues';
    }
  }

  const percentOf = (event: PointerEvent): Spot => {
    const picture = handle!.parentElement!.getBoundingClientRect();
    return {
      xPercent: ((event.clientX - picture.left) / picture.width) * 100,
      yPercent: ((event.clientY - picture.top) / picture.height) * 100
    };
  };

  function take(event: PointerEvent): void {
    if (event.button !== 0 || middle === null) return;
    event.preventDefault();
    handle!.focus();
    reach();
    const at = percentOf(event);
    grip = { pointer: event.pointerId, dx: at.xPercent - middle.xPercent, dy: at.yPercent - middle.yPercent };
    handle!.setPointerCapture(event.pointerId);
  }

  function drag(event: PointerEvent): void {
    if (grip?.pointer !== event.pointerId || frame === null) return;
    const at = percentOf(event);
    const asked = { xPercent: at.xPercent - grip.dx, yPercent: at.yPercent - grip.dy };
    snapped = snapSpot(asked, { frame, marginPercent: dressing.look.marginPercent, isFree: event.altKey });
    dressing.try({ placement: snapped.spot });
  }

  function drop(): void {
    const to = snapped?.spot;
    grip = null;
    snapped = null;
    if (to !== undefined) dressing.set({ placement: to });
  }

  function letGo(): boolean {
    if (grip === null) return false;
    grip = null;
    snapped = null;
    dressing.leaveTrial();
    return true;
  }

  function byKey(event: KeyboardEvent): void {
    if (event.key === 'Escape' && letGo()) {
      event.stopPropagation();
      return;
    }
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (by === undefined || middle === null) return;
    event.preventDefault();
    event.stopPropagation();
    reach();
    const step = event.shiftKey ? FAR_STEP : STEP;
    const round = (value: number): number => clamp(Math.round(value * 100) / 100, 0, 100);
    dressing.set({
      placement: {
        xPercent: round(middle.xPercent + by[0]! * step),
        yPercent: round(middle.yPercent + by[1]! * step)
      }
    });
  }
</script>

{#if frame !== null}
  {#if snapped !== null}
    {#if snapped.lineX !== null}<i class="line upright" style:left="{snapped.lineX}%"></i>{/if}
    {#if snapped.lineY !== null}<i class="line level" style:top="{snapped.lineY}%"></i>{/if}
  {/if}
  <!-- It is moved in two directions, which no native control is. -->
  <button
    class="mover"
    bind:this={handle}
    aria-label={phrases.place.mover}
    title={phrases.place.mover}
    style:left="{frame.left}%"
    style:top="{frame.top}%"
    style:width="{frame.width}%"
    style:height="{frame.height}%"
    onpointerdown={take}
    onpointermove={drag}
    onpointerup={drop}
    onpointercancel={() => letGo()}
    onkeydown={byKey}
    data-testid="mover"
  ></button>
{/if}

<style>
  .mover {
    position: absolute;
    border-radius: 4px;
    cursor: move;
    touch-action: none;
  }
  .mover:hover {
    outline: 1px dashed #fff;
    outline-offset: 3px;
    box-shadow: 0 0 0 5px rgb(0 0 0 / 0.35);
  }
  .mover:focus-visible {
    outline: 2px solid #fff;
    outline-offset: 3px;
    box-shadow: 0 0 0 6px var(--grape);
  }
  .line {
    position: absolute;
    z-index: 1;
    background: #f2c14e;
    box-shadow: 0 0 0 1px rgb(0 0 0 / 0.5);
    pointer-events: none;
  }
  .upright {
    top: 0;
    bottom: 0;
    width: 1px;
  }
  .level {
    right: 0;
    left: 0;
    height: 1px;
  }
</style>
