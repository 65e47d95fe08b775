<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { get } from 'svelte/store';
  import { onMount, untrack } from 'svelte';
  import { quietStretches } from '$lib/core/audio';
  import { breakIntoRows, unfold, type Row } from '$lib/core/rows';
  import { clamp, type Ms, overlapMs, wholeMs } from '$lib/core/time';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { forgetWidths, geometryOf, heightOf, msOf, PAD, placeHead, rowAt, topsOf, xOf } from './geometry';
  import { Hand } from './hand.svelte';
  import type { RowSource } from './row-source';
  import TrellisRow from './TrellisRow.svelte';
  import { gainOf } from './wave';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { recording, player } = desk;
  let box = $state<HTMLElement | undefined>();
  let head = $state<HTMLElement | undefined>();
  let width = $state(880);
  let fontsAt = $state(0);

  const sound = $derived(desk.sound);
  const gain = $derived(sound === null ? 1 : gainOf(sound.levels));
  const rowMs = $derived(preferences.rowMs);
  const geometry = $derived(geometryOf(width, rowMs, preferences.soundView));
  const quiet = $derived(sound === null ? [] : quietStretches(sound.levels, { minLengthMs: 2000 }));
  const brokenRows = $derived(
    breakIntoRows({
      durationMs: recording.durationMs,
      speech: sound?.speech ?? { frameMs: 32, probabilities: [] },
      regions: sound?.speech.regions ?? [],
      quiet,
      rowMs
    })
  );
  /** Folds in which a cue stands are open: the other rows stay where they are. */
  const rows: readonly Row[] = $derived.by(() => {
    if (!brokenRows.some((row) => row.kind === 'folded')) return brokenRows;
    const { cues } = desk.track;
    return brokenRows.flatMap((row) =>
      row.kind === 'folded' && cues.some((cue) => overlapMs(cue, row) > 0) ? unfold(row, rowMs) : [row]
    );
  });
  const tops = $derived(topsOf(geometry, rows));

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => 140
  });
  $effect(() => {
    const list = rows;
    const element = box ?? null;
    const sizes = geometry;
    untrack(() => {
      get(virtual).setOptions({
        count: list.length,
        getScrollElement: () => element,
        estimateSize: (index) => heightOf(sizes, list[index]),
        getItemKey: (index) => `${list[index]?.startMs}-${list[index]?.endMs}`,
        paddingStart: PAD,
        paddingEnd: 40,
        overscan: 2
      });
      get(virtual).measure();
    });
  });

  onMount(() => {
    void document.fonts.ready.then(() => {
      forgetWidths();
      fontsAt++;
    });
  });

  // --- What is dragged -----------------------------------------------------------------------------------------

  const hand = new Hand(desk, {
    timeUnder,
    get geometry() {
      return geometry;
    }
  });
  const cues = $derived(hand.cues);
  const source: RowSource = {
    get track() {
      return desk.drawn;
    },
    get spokenOrder() {
      return desk.spokenOrder;
    },
    durationMs: recording.durationMs,
    get shotsMs() {
      return desk.on.shotsMs;
    },
    joinsMs: [],
    get standing() {
      return desk.trial.track === null ? null : desk.track.cues;
    },
    spectrumOf: (span) => desk.on.spectrumOf(span)
  };

  function timeUnder(event: PointerEvent): Ms | null {
    if (!box || rows.length === 0) return null;
    const bounds = box.getBoundingClientRect();
    const y = event.clientY - bounds.top + box.scrollTop;
    let at = 0;
    while (at + 1 < tops.length && tops[at + 1]! <= y) at++;
    const row = rows[at]!;
    if (row.kind === 'folded') return row.startMs;
    return wholeMs(clamp(msOf(geometry, row, event.clientX - bounds.left), 0, recording.durationMs));
  }

  /** The pointer may be captured here, so what is under it is looked up. */
  function openText({ clientX, clientY }: MouseEvent): void {
    if (document.elementFromPoint(clientX, clientY)?.closest('[data-cue]') != null) desk.surface?.enter();
  }

  // --- The playhead ---------------------------------------------------------------------------------------------

  let nearMs = $state(0);
  let shownRow = -1;
  let scrolledAt = 0;

  $effect(() => {
    const element = head;
    const placed = { geometry, rows, tops };
    if (!element || rows.length === 0) return;
    shownRow = -1;
    return player.onFrame((nowMs) => {
      const at = placeHead(element, nowMs, placed);
      if (Math.abs(nowMs - untrack(() => nearMs)) > 1000) nearMs = nowMs;
      if (at !== shownRow) {
        shownRow = at;
        if (player.isPlaying) followRow(at);
      }
    });
  });

  /** Steps by whole rows and keeps the playhead's row in the middle third, unless a hand has just scrolled. */
  function followRow(at: number): void {
    if (!box || Date.now() - scrolledAt < 3000) return;
    const y = tops[at]! - box.scrollTop;
    const third = box.clientHeight / 3;
    if (y >= third - geometry.rowHeight / 2 && y <= 2 * third - geometry.rowHeight / 2) return;
    box.scrollTop = tops[Math.max(0, at)]! - Math.round(third / geometry.rowHeight) * geometry.rowHeight - PAD;
  }

  // The word that is spoken: two elements are touched, nothing is rendered anew.
  $effect(() => {
    const id = desk.spokenWordId;
    void $virtual.getVirtualItems();
    void desk.track;
    const element = id === null ? null : (box?.querySelector(`[data-word="${id}"]`) ?? null);
    element?.classList.add('is-spoken');
    return () => element?.classList.remove('is-spoken');
  });

  // What is chosen elsewhere, or by key, is brought into view.
  $effect(() => {
    const id = desk.cueId;
    untrack(() => {
      const cue = desk.cue;
      if (id === null || cue === null || !box || player.isPlaying || hand.isBusy) return;
      reveal(cue.startMs);
    });
  });

  function reveal(ms: number): void {
    if (!box || rows.length === 0) return;
    const at = rowAt(rows, ms);
    const top = tops[at]!;
    if (top < box.scrollTop) box.scrollTop = top - PAD;
    else if (top + geometry.rowHeight > box.scrollTop + box.clientHeight)
      box.scrollTop = top + geometry.rowHeight - box.clientHeight + PAD;
  }

  // A change of zoom keeps the chosen cue, else the playhead, at its height on the screen.
  let zoomed: { rowMs: number; top: number } | undefined;
  $effect.pre(() => {
    void rowMs;
    untrack(() => {
      if (!box || zoomed === undefined || zoomed.rowMs === rowMs) return;
      const anchor = anchorMs();
      const offset = zoomed.top;
      queueMicrotask(() => {
        if (box) box.scrollTop = tops[rowAt(rows, anchor)]! - offset;
      });
    });
  });
  $effect(() => {
    const now = rowMs;
    void desk.cueId;
    rememberAnchor(now);
  });
  const anchorMs = (): Ms => desk.cue?.startMs ?? player.nowMs;
  function rememberAnchor(now: number): void {
    untrack(() => {
      if (box && rows.length > 0) zoomed = { rowMs: now, top: tops[rowAt(rows, anchorMs())]! - box.scrollTop };
    });
  }

  // --- Going by rows ----------------------------------------------------------------------------------------------

  /** A row up or down, keeping the horizontal place. */
  export function stepRow(by: 1 | -1): void {
    if (rows.length === 0) return;
    const nowMs = player.nowMs;
    const at = rowAt(rows, nowMs);
    const x = rows[at]!.kind === 'folded' ? geometry.gutter : xOf(geometry, rows[at]!, nowMs);
    let next = at + by;
    while (rows[next]?.kind === 'folded') next += by;
    const row = rows[next];
    if (row === undefined) return;
    const ms = clamp(msOf(geometry, row, x), row.startMs, row.endMs - 1);
    desk.seek(ms);
    reveal(ms);
  }

  export const letGo = (): boolean => hand.letGo();
  export function focus(): void {
    box?.focus({ preventScroll: true });
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="trellis"
  bind:this={box}
  bind:clientWidth={width}
  tabindex="0"
  role="region"
  aria-label={phrases.trellis.label}
  data-surface
  data-testid="trellis"
  class:dragging={hand.isMoving}
  onpointerdown={(event) => {
    if (hand.down(event)) box?.setPointerCapture(event.pointerId);
  }}
  onpointermove={(event) => hand.move(event)}
  onpointerup={() => hand.up()}
  ondblclick={openText}
  onpointercancel={() => hand.letGo()}
  onwheel={() => (scrolledAt = Date.now())}
  onscroll={() => rememberAnchor(rowMs)}
>
  <div class="content" style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const row = rows[item.index]}
      {#if row}
        <div class="place" style:transform="translateY({item.start}px)" data-row={item.index}>
          <TrellisRow
            {source}
            {row}
            {geometry}
            {sound}
            {gain}
            {cues}
            drawing={hand.drawing}
            caught={hand.caught}
            {fontsAt}
            nearMs={geometry.density === 'middle' ? nearMs : 0}
          />
        </div>
      {/if}
    {/each}
    <div class="playhead" bind:this={head} data-testid="playhead" aria-hidden="true"></div>
  </div>
  {#if desk.on.soundFailure}
    <p class="note" role="alert">{desk.on.soundFailure}</p>
  {:else if sound === null}
    <p class="note soft">{phrases.trellis.readingTheSound}</p>
  {/if}
</div>
{#if hand.figures !== null}
  <div class="figures mono" style:left="{hand.pointer.x + 14}px" style:top="{hand.pointer.y - 44}px" role="status">
    {hand.figures}
  </div>
{/if}

<style>
  .trellis {
    position: relative;
    height: 100%;
    overflow-x: hidden;
    overflow-y: auto;
    background: var(--sheet);
    outline: none;
  }
  .content {
    position: relative;
  }
  .place {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
  }
  /* A text that floats lies over the row below. */
  .place:has(:global(.float)) {
    z-index: 2;
  }
  .playhead {
    position: absolute;
    top: 0;
    left: -1px;
    z-index: 7;
    width: 2px;
    background: var(--grape);
    pointer-events: none;
    will-change: transform;
  }
  .playhead::before {
    content: '';
    position: absolute;
    top: -1px;
    left: -4px;
    width: 10px;
    height: 13px;
    border-radius: 50% 50% 50% 50% / 40% 40% 60% 60%;
    background: var(--grape);
  }
  .dragging {
    cursor: ew-resize;
  }
  .figures {
    position: fixed;
    z-index: 20;
    padding: 3px 9px;
    border-radius: 5px;
    background: var(--ink);
    color: var(--paper);
    font-size: 13px;
    pointer-events: none;
  }
  .note {
    position: absolute;
    top: 20px;
    left: 64px;
    padding: 6px 12px;
  }
</style>
