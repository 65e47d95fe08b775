<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { get } from 'svelte/store';
  import { onMount, untrack } from 'svelte';
  import { quietStretches } from '$lib/core/audio';
  import { breakIntoRows, unfold, type Row } from '$lib/core/rows';
  import { clamp, formatClock, lastStartingBy, overlapMs, type Ms, type Span } from '$lib/core/time';
  import { compareCues, lookUp, type Cue } from '$lib/core/track';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import { forgetWidths, geometryOf, msOf, xOf } from './geometry';
  import TrellisRow from './TrellisRow.svelte';
  import { gainOf } from './wave';

  const workspace = useWorkspace();
  const { recording, session, player } = workspace;
  let box = $state<HTMLElement | undefined>();
  let head = $state<HTMLElement | undefined>();
  let width = $state(880);
  let fontsAt = $state(0);

  const sound = $derived(workspace.sound);
  const gain = $derived(sound === null ? 1 : gainOf(sound.levels));
  const rowMs = $derived(preferences.rowMs);
  const geometry = $derived(geometryOf(width, rowMs));
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
    const { cues } = workspace.track;
    return brokenRows.flatMap((row) =>
      row.kind === 'folded' && cues.some((cue) => overlapMs(cue, row) > 0) ? unfold(row, rowMs) : [row]
    );
  });
  const PAD = 10;
  const heightOf = (row: Row): number => (row.kind === 'folded' ? geometry.foldHeight : geometry.rowHeight);
  const tops: readonly number[] = $derived.by(() => {
    let top = PAD;
    return rows.map((row) => {
      const here = top;
      top += heightOf(row);
      return here;
    });
  });

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
        estimateSize: (index) => (list[index]?.kind === 'folded' ? sizes.foldHeight : sizes.rowHeight),
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

  interface Drag extends Span {
    readonly cueId: string;
    readonly part: 'start' | 'end' | 'body';
    /** Time under the pointer where the drag began. */
    readonly grabbedMs: Ms;
    readonly from: Span;
    readonly x: number;
    readonly y: number;
    readonly hasMoved: boolean;
  }
  let drag = $state.raw<Drag | null>(null);

  /** Cues with the times of the one in hand: nothing is changed before it is let go. */
  const cues: readonly Cue[] = $derived.by(() => {
    const held = drag;
    const all = workspace.track.cues;
    if (held === null || !held.hasMoved) return all;
    const at = lookUp(workspace.track).cueAt.get(held.cueId);
    if (at === undefined) return all;
    return all.with(at, { ...all[at]!, startMs: held.startMs, endMs: held.endMs }).sort(compareCues);
  });

  const rowAt = (ms: Ms): number => clamp(lastStartingBy(rows, ms), 0, rows.length - 1);

  function timeUnder(event: PointerEvent | MouseEvent): Ms | null {
    if (!box || rows.length === 0) return null;
    const bounds = box.getBoundingClientRect();
    const y = event.clientY - bounds.top + box.scrollTop;
    let at = 0;
    while (at + 1 < tops.length && tops[at + 1]! <= y) at++;
    const row = rows[at]!;
    if (row.kind === 'folded') return row.startMs;
    return clamp(msOf(geometry, row, event.clientX - bounds.left), 0, recording.durationMs);
  }

  /** The nearest edge of a word, of speech or of a neighbour within a few pixels; the time itself where there is none. */
  function snap(ms: Ms, cue: Cue): Ms {
    const reachMs = 6 / geometry.pxPerMs;
    let best = ms;
    let least = reachMs;
    const offer = (at: Ms): void => {
      if (Math.abs(at - ms) < least) {
        least = Math.abs(at - ms);
        best = at;
      }
    };
    const words = workspace.spokenOrder;
    for (
      let at = Math.max(0, lastStartingBy(words, ms - 2000));
      at < words.length && words[at]!.startMs < ms + 2000;
      at++
    ) {
      offer(words[at]!.startMs);
      offer(words[at]!.endMs);
    }
    const regions = sound?.speech.regions ?? [];
    for (
      let at = Math.max(0, lastStartingBy(regions, ms) - 1);
      at < regions.length && regions[at]!.startMs < ms + 2000;
      at++
    ) {
      offer(regions[at]!.startMs);
      offer(regions[at]!.endMs);
    }
    const { minGapMs } = workspace.track.rules;
    for (const other of workspace.track.cues) {
      if (other.id === cue.id || other.startMs > ms + 3000 || other.endMs < ms - 3000) continue;
      offer(other.endMs + minGapMs);
      offer(other.startMs - minGapMs);
    }
    return best;
  }

  function startDrag(event: PointerEvent): void {
    if (event.button !== 0 || !(event.target instanceof Element)) return;
    const word = event.target.closest<HTMLElement>('[data-word]');
    if (word !== null) {
      workspace.chooseWord(lookUp(workspace.track).findWord(word.dataset.word!));
      return;
    }
    const held = event.target.closest<HTMLElement>('[data-part]');
    const ms = timeUnder(event);
    if (ms === null) return;
    const cue = workspace.track.cues.find((one) => one.id === held?.dataset.cue);
    if (held === null || cue === undefined) {
      workspace.seek(ms);
      return;
    }
    workspace.flushTyping();
    workspace.chooseCue(cue);
    const part = held.dataset.part === 'start' || held.dataset.part === 'end' ? held.dataset.part : 'body';
    drag = {
      cueId: cue.id,
      part,
      grabbedMs: ms,
      from: cue,
      startMs: cue.startMs,
      endMs: cue.endMs,
      x: event.clientX,
      y: event.clientY,
      hasMoved: false
    };
    box?.setPointerCapture(event.pointerId);
  }

  function moveDrag(event: PointerEvent): void {
    const held = drag;
    if (held === null) return;
    if (!held.hasMoved && Math.hypot(event.clientX - held.x, event.clientY - held.y) < 3) return;
    const cue = workspace.track.cues.find((one) => one.id === held.cueId);
    const under = timeUnder(event);
    if (cue === undefined || under === null) return;
    // Far out a pixel is long: Shift makes the hand ten times finer.
    const byMs = (under - held.grabbedMs) * (event.shiftKey && geometry.density !== 'close' ? 0.1 : 1);
    const isFree = event.ctrlKey || event.metaKey;
    const settle = (ms: Ms): Ms => Math.max(0, Math.round(isFree ? ms : snap(ms, cue)));
    const { from } = held;
    const lengthMs = from.endMs - from.startMs;
    const startMs = held.part === 'end' ? from.startMs : settle(from.startMs + byMs);
    const wanted =
      held.part === 'start'
        ? { startMs: Math.min(startMs, from.endMs - 100), endMs: from.endMs }
        : held.part === 'end'
          ? { startMs: from.startMs, endMs: Math.max(settle(from.endMs + byMs), from.startMs + 100) }
          : { startMs, endMs: startMs + lengthMs };
    const times = isFree ? wanted : workspace.limitTimes(cue, wanted, held.part === 'body' ? 'both' : held.part);
    drag = { ...held, ...times, x: event.clientX, y: event.clientY, hasMoved: true };
  }

  function endDrag(): void {
    const held = drag;
    drag = null;
    if (held?.hasMoved !== true || (held.startMs === held.from.startMs && held.endMs === held.from.endMs)) return;
    session.edit({ type: 'setCueTimes', cueId: held.cueId, startMs: held.startMs, endMs: held.endMs });
  }

  function stopDrag(event: KeyboardEvent): void {
    if (event.key === 'Escape') drag = null;
  }

  // --- The playhead ---------------------------------------------------------------------------------------------

  let nearMs = $state(0);
  let shownRow = -1;
  let scrolledAt = 0;

  $effect(() => {
    const element = head;
    const list = rows;
    const placed = geometry;
    const heights = tops;
    if (!element || list.length === 0) return;
    shownRow = -1;
    return player.onFrame((nowMs) => {
      const at = clamp(lastStartingBy(list, nowMs), 0, list.length - 1);
      const row = list[at]!;
      const x = row.kind === 'folded' ? placed.gutter : xOf(placed, row, nowMs);
      element.style.transform = `translate(${x}px, ${heights[at]}px)`;
      element.style.height = `${heightOf(row) - 8}px`;
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
    const id = workspace.spokenWordId;
    void $virtual.getVirtualItems();
    void workspace.track;
    const element = id === null ? null : (box?.querySelector(`[data-word="${id}"]`) ?? null);
    element?.classList.add('is-spoken');
    return () => element?.classList.remove('is-spoken');
  });

  // What is chosen elsewhere, or by key, is brought into view.
  $effect(() => {
    const id = workspace.cueId;
    untrack(() => {
      const cue = workspace.cue;
      if (id === null || cue === null || !box || player.isPlaying || drag !== null) return;
      reveal(cue.startMs);
    });
  });

  function reveal(ms: Ms): void {
    if (!box || rows.length === 0) return;
    const at = rowAt(ms);
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
        if (box) box.scrollTop = tops[rowAt(anchor)]! - offset;
      });
    });
  });
  $effect(() => {
    const now = rowMs;
    void workspace.cueId;
    rememberAnchor(now);
  });
  const anchorMs = (): Ms => workspace.cue?.startMs ?? player.nowMs;
  function rememberAnchor(now: number): void {
    untrack(() => {
      if (box && rows.length > 0) zoomed = { rowMs: now, top: tops[rowAt(anchorMs())]! - box.scrollTop };
    });
  }

  // --- Going by rows ----------------------------------------------------------------------------------------------

  /** A row up or down, keeping the horizontal place. */
  export function stepRow(by: 1 | -1): void {
    if (rows.length === 0) return;
    const nowMs = player.nowMs;
    const at = rowAt(nowMs);
    const x = rows[at]!.kind === 'folded' ? geometry.gutter : xOf(geometry, rows[at]!, nowMs);
    let next = at + by;
    while (rows[next]?.kind === 'folded') next += by;
    const row = rows[next];
    if (row === undefined) return;
    const ms = clamp(msOf(geometry, row, x), row.startMs, row.endMs - 1);
    workspace.seek(ms);
    reveal(ms);
  }

  export function focus(): void {
    box?.focus({ preventScroll: true });
  }

  const chosenAt = $derived(drag?.hasMoved === true ? drag : null);
</script>

<svelte:window onkeydown={stopDrag} />

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="trellis"
  bind:this={box}
  bind:clientWidth={width}
  tabindex="0"
  role="region"
  aria-label="Trellis: the waveform in rows, with its words and cues"
  data-surface
  data-testid="trellis"
  class:dragging={drag?.hasMoved}
  onpointerdown={startDrag}
  onpointermove={moveDrag}
  onpointerup={endDrag}
  onpointercancel={() => (drag = null)}
  onwheel={() => (scrolledAt = Date.now())}
  onscroll={() => rememberAnchor(rowMs)}
>
  <div class="content" style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const row = rows[item.index]}
      {#if row}
        <div class="place" style:transform="translateY({item.start}px)" data-row={item.index}>
          <TrellisRow
            {row}
            {geometry}
            {sound}
            {gain}
            {cues}
            {fontsAt}
            nearMs={geometry.density === 'middle' ? nearMs : 0}
          />
        </div>
      {/if}
    {/each}
    <div class="playhead" bind:this={head} data-testid="playhead" aria-hidden="true"></div>
  </div>
  {#if workspace.soundFailure}
    <p class="note" role="alert">{workspace.soundFailure}</p>
  {:else if sound === null}
    <p class="note soft">Reading the sound…</p>
  {/if}
</div>
{#if chosenAt}
  <div class="figures mono" style:left="{chosenAt.x + 14}px" style:top="{chosenAt.y - 44}px" role="status">
    {formatClock(chosenAt.startMs, 3)} → {formatClock(chosenAt.endMs, 3)} · {(
      (chosenAt.endMs - chosenAt.startMs) /
      1000
    ).toFixed(2)} s
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
