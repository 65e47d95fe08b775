<script lang="ts">
  import ZoomIn from '@lucide/svelte/icons/zoom-in';
  import ZoomOut from '@lucide/svelte/icons/zoom-out';
  import { onDestroy, untrack } from 'svelte';
  import { levelsBetween } from '$lib/core/audio';
  import { clamp, formatClock, wholeMs } from '$lib/core/time';
  import { joinsOf, type LaidPiece } from '$lib/core/trims';
  import { behindFrames } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { firstFrom, byMiddle } from '$lib/client/trim/text';
  import { phrases } from './phrases';

  /** The recording around the passage in hand, and under it what plays of it, with lines from edges to joins. */
  const desk = useTrackDesk();
  const { trimming, player } = desk;
  const words = phrases.waves;
  const WINDOWS_MS = [800, 2000, 5000, 12_000, 30_000] as const;
  let zoom = $state(3);
  const windowMs = $derived(WINDOWS_MS[zoom]!);
  interface Range {
    readonly least: number;
    readonly greatest: number;
  }
  const STILL = { room: { least: -0.001, greatest: 0.001 }, nothing: { least: 0, greatest: 0 } };
  const HEIGHTS = { words: 22, lane: 62, between: 26 };
  let canvas = $state<HTMLCanvasElement | undefined>();
  let width = $state(0);
  /** Recorded and trimmed time in the middle of the window. */
  let middle = $state.raw({ recordedMs: 0, trimmedMs: 0 });
  let head = $state.raw({ recordedMs: 0, trimmedMs: 0 });

  const fromMs = $derived(middle.recordedMs - windowMs / 2);
  const trimmedFromMs = $derived(middle.trimmedMs - windowMs / 2);
  const x = (ms: number): number => ((ms - fromMs) / windowMs) * width;
  const trimmedX = (ms: number): number => ((ms - trimmedFromMs) / windowMs) * width;
  const msAt = (px: number): number => fromMs + (px / width) * windowMs;

  /** Moves with the playhead, in steps: what is looked at holds still. */
  function follow(): void {
    const { map } = trimming;
    if (map === null || drag !== null) return;
    const trimmedMs = trimming.nowMs;
    const recordedMs = player.nowMs;
    head = { recordedMs, trimmedMs };
    const isFar = Math.abs(recordedMs - middle.recordedMs) > windowMs * 0.42;
    if (isFar || Math.abs(trimmedMs - middle.trimmedMs) > windowMs * 0.42) middle = { recordedMs, trimmedMs };
  }
  $effect(() => {
    void trimming.trim;
    return untrack(() => {
      follow();
      return player.onFrame(follow);
    });
  });
  $effect(() => {
    const span = trimming.choice?.spans[0];
    const { map } = trimming;
    if (span === undefined || map === null) return;
    untrack(() => {
      const at = (span.fromMs + span.toMs) / 2;
      if (Math.abs(at - middle.recordedMs) < windowMs * 0.4) return;
      middle = { recordedMs: at, trimmedMs: map.trimmedAt(at)[0] ?? trimming.nowMs };
    });
  });

  /** Edges of what plays in the window, each with the side that it belongs to. */
  const edges = $derived.by(() => {
    const { map } = trimming;
    if (map === null) return [];
    const found: { key: string; laid: LaidPiece; edge: 'start' | 'end'; ms: number; trimmedMs: number }[] = [];
    for (const { before, after, atMs } of joinsOf(map)) {
      if (before.fromMs !== null && before.plays !== 'room')
        found.push({
          ...{ key: `${before.piece.id} end`, laid: before, edge: 'end', trimmedMs: atMs },
          ms: before.fromMs + before.endMs - before.startMs
        });
      if (after.fromMs !== null && after.plays !== 'room')
        found.push({ key: `${after.piece.id} start`, laid: after, edge: 'start', ms: after.fromMs, trimmedMs: atMs });
    }
    return found.filter(({ ms }) => ms > fromMs && ms < fromMs + windowMs);
  });
  const order = $derived(byMiddle(desk.track));
  const shownWords = $derived.by(() => {
    const { words: all, middles } = order;
    const first = firstFrom(middles, fromMs);
    const until = firstFrom(middles, fromMs + windowMs);
    // What is too narrow to be read is left out.
    return all.slice(first, until).filter(({ startMs, endMs }) => x(endMs) - x(startMs) > 18);
  });

  /** A level for each pixel that has sound: no edit changes what was recorded. */
  const recordedLevels = $derived.by(() => {
    const { sound } = desk;
    if (sound === null) return [];
    return Array.from({ length: width }, (_, px) => {
      const ms = msAt(px);
      return ms < 0 || ms >= desk.recording.durationMs ? null : levelsBetween(sound.levels, ms, msAt(px + 1));
    });
  });

  function draw(): void {
    const { sound } = desk;
    const { map, trim, choice } = trimming;
    const { tried } = trimming.offers;
    const context = canvas?.getContext('2d');
    if (canvas === undefined || context == null || width === 0) return;
    const ratio = devicePixelRatio;
    const height = HEIGHTS.words + HEIGHTS.lane * 2 + HEIGHTS.between;
    const size = { width: Math.round(width * ratio), height: Math.round(height * ratio) };
    // To set its size, even to what it is, takes a new buffer.
    if (canvas.width !== size.width || canvas.height !== size.height) Object.assign(canvas, size);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    if (sound === null || map === null || trim === null) return;
    const style = getComputedStyle(canvas);
    const color = (name: string, clearPercent = 0): string =>
      clearPercent === 0
        ? style.getPropertyValue(name)
        : `color-mix(in oklab, ${style.getPropertyValue(name)}, transparent ${clearPercent}%)`;
    const colors = {
      wave: color('--wave'),
      out: color('--soft-ink', 62),
      leaf: color('--leaf'),
      room: color('--soft-ink')
    };
    const topLane = HEIGHTS.words;
    const lowLane = HEIGHTS.words + HEIGHTS.lane + HEIGHTS.between;
    const bar = (px: number, top: number, { least, greatest }: Range): void => {
      const centre = top + HEIGHTS.lane / 2;
      const up = Math.max(0.5, Math.sqrt(Math.abs(greatest)) * (HEIGHTS.lane / 2 - 2));
      const down = Math.max(0.5, Math.sqrt(Math.abs(least)) * (HEIGHTS.lane / 2 - 2));
      context.fillRect(px, centre - up, 1, up + down);
    };
    const fill = (spans: readonly { fromMs: number; toMs: number }[], name: string): void => {
      context.fillStyle = name;
      for (const span of spans) context.fillRect(x(span.fromMs), topLane, x(span.toMs) - x(span.fromMs), HEIGHTS.lane);
    };
    fill(choice?.spans ?? [], color('--leaf', 78));
    fill(tried ?? [], color('--straw', 70));
    // Bars of one colour together: to set a colour takes longer than to draw a bar.
    const bars: Record<keyof typeof colors, [number, number, Range][]> = {
      ...{ wave: [], out: [], leaf: [], room: [] }
    };
    const heard = map.laid.flatMap(({ plays, fromMs: ms, startMs, endMs }) => {
      if (plays !== 'sound' || ms === null || ms >= fromMs + windowMs || ms + endMs - startMs <= fromMs) return [];
      return [{ fromMs: ms, toMs: ms + endMs - startMs }];
    });
    let laidAt = Math.max(0, map.indexAt(Math.max(0, trimmedFromMs)));
    for (let px = 0; px < width; px++) {
      const from = msAt(px);
      const recorded = recordedLevels[px];
      if (recorded != null) {
        const isHeard = heard.some((span) => from >= span.fromMs && from < span.toMs);
        bars[isHeard ? 'wave' : 'out'].push([px, topLane, recorded]);
      }
      const trimmedMs = trimmedFromMs + (px / width) * windowMs;
      while ((map.laid[laidAt]?.endMs ?? Number.POSITIVE_INFINITY) <= trimmedMs) laidAt++;
      const laid = map.laid[laidAt];
      if (laid === undefined || trimmedMs < 0) continue;
      const recordedMs = (laid.fromMs ?? 0) + trimmedMs - laid.startMs;
      const level =
        laid.plays === 'sound'
          ? levelsBetween(sound.levels, recordedMs, recordedMs + windowMs / width)
          : STILL[laid.plays];
      bars[laid.plays === 'sound' ? 'leaf' : 'room'].push([px, lowLane, level]);
    }
    for (const name of ['wave', 'out', 'leaf', 'room'] as const) {
      context.fillStyle = colors[name];
      for (const one of bars[name]) bar(...one);
    }
    context.lineWidth = 1;
    context.strokeStyle = colors.leaf;
    for (const { ms, trimmedMs } of edges) {
      context.beginPath();
      context.moveTo(x(ms), topLane + HEIGHTS.lane);
      context.lineTo(trimmedX(trimmedMs), lowLane);
      context.lineTo(trimmedX(trimmedMs), lowLane + HEIGHTS.lane);
      context.stroke();
    }
  }
  const behind = behindFrames(draw);
  $effect(() => {
    void [canvas, trimming.trim, trimming.choice, trimming.offers.tried, recordedLevels, edges, trimmedFromMs];
    behind.ask();
  });
  onDestroy(behind.cancel);

  /** Around what is chosen, else the playhead, which stays where it is. */
  function zoomBy(by: 1 | -1): void {
    zoom = clamp(zoom + by, 0, WINDOWS_MS.length - 1);
    const span = trimming.choice?.spans[0];
    const join = edges.find(
      ({ laid, edge }) => edge === 'start' && laid.piece.id === trimming.joins.list[trimming.joins.at]?.afterId
    );
    const recordedMs = span?.fromMs ?? join?.ms ?? player.nowMs;
    middle = { recordedMs, trimmedMs: trimming.map?.trimmedAt(recordedMs)[0] ?? trimming.nowMs };
  }

  // A stretch is drawn, an edge is dragged.
  let drag = $state.raw<
    | { readonly kind: 'stretch'; readonly fromMs: number }
    | { readonly kind: 'edge'; readonly pieceId: string; readonly edge: 'start' | 'end'; readonly ms: number }
    | null
  >(null);
  function pxOf(event: PointerEvent): number {
    const { left } = canvas!.getBoundingClientRect();
    return clamp(event.clientX - left, 0, width);
  }
  function press(event: PointerEvent): void {
    if (event.button !== 0 || width === 0) return;
    drag = { kind: 'stretch', fromMs: msAt(pxOf(event)) };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function grasp(event: PointerEvent, { laid, edge, ms }: (typeof edges)[number]): void {
    event.stopPropagation();
    drag = { kind: 'edge', pieceId: laid.piece.id, edge, ms };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function move(event: PointerEvent): void {
    if (drag === null) return;
    const ms = msAt(pxOf(event));
    if (drag.kind === 'stretch') trimming.chooseSpan(drag.fromMs, ms);
    else drag = { ...drag, ms };
  }
  function release(event: PointerEvent): void {
    const done = drag;
    drag = null;
    if (done === null) return;
    if (done.kind === 'edge') {
      const atMs = wholeMs(clamp(done.ms, 0, desk.recording.durationMs));
      trimming.edit({ type: 'moveEdge', pieceId: done.pieceId, edge: done.edge, atMs });
      return;
    }
    const ms = msAt(pxOf(event));
    // A click goes there.
    if (Math.abs(ms - done.fromMs) < windowMs / 200) {
      trimming.choice = null;
      player.seek(ms);
    }
  }
  const isTouched = (word: { startMs: number; endMs: number }): boolean =>
    drag?.kind === 'edge' && drag.ms > word.startMs && drag.ms < word.endMs;
</script>

<div class="waves" role="group" aria-label={words.label} bind:clientWidth={width}>
  <!-- Times are chosen by keys on the text, and by in and out at the playhead. -->
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="area" onpointerdown={press} onpointermove={move} onpointerup={release} data-testid="trim-waves">
    <canvas bind:this={canvas}></canvas>
    <div class="words" aria-hidden="true">
      {#each shownWords as word (word.id)}
        <span
          class:touched={isTouched(word)}
          style:left="{x(word.startMs)}px"
          style:max-width="{x(word.endMs) - x(word.startMs) - 3}px">{word.text}</span
        >
      {/each}
    </div>
    {#each edges as edge (edge.key)}
      {@const ms =
        drag?.kind === 'edge' && drag.pieceId === edge.laid.piece.id && drag.edge === edge.edge ? drag.ms : edge.ms}
      <button
        class="edge {edge.edge}"
        tabindex="-1"
        style:left="{x(ms)}px"
        title={words.edge(edge.edge, formatClock(ms, 3))}
        aria-label={words.edge(edge.edge, formatClock(ms, 3))}
        onpointerdown={(event) => grasp(event, edge)}
        onpointermove={move}
        onpointerup={release}
      ></button>
    {/each}
    <span class="head" style:left="{x(head.recordedMs)}px" style:top="22px"></span>
    <span class="head" style:left="{trimmedX(head.trimmedMs)}px" style:top="110px"></span>
    <span class="name mono" style:top="24px">{words.recorded(desk.on.showTime(head.recordedMs, 2))}</span>
    <span class="name mono" style:top="112px" data-testid="trimmed-now"
      >{words.trimmed(desk.on.showTime(head.trimmedMs, 2))}</span
    >
    <span class="zoom">
      <button
        class="icon"
        aria-label={words.closer}
        title={words.closer}
        disabled={zoom === 0}
        onpointerdown={(event) => event.stopPropagation()}
        onclick={() => zoomBy(-1)}><ZoomIn size={16} /></button
      >
      <button
        class="icon"
        aria-label={words.farther}
        title={words.farther}
        disabled={zoom === WINDOWS_MS.length - 1}
        onpointerdown={(event) => event.stopPropagation()}
        onclick={() => zoomBy(1)}><ZoomOut size={16} /></button
      >
    </span>
    {#if desk.sound === null}<p class="soft none">{desk.on.soundFailure ?? words.none}</p>{/if}
  </div>
</div>

<style>
  .waves {
    min-width: 0;
    padding-top: 6px;
    border-top: 1px solid var(--rule);
    background: var(--paper);
    overflow: hidden;
  }
  .area {
    position: relative;
    height: 172px;
    cursor: text;
    touch-action: none;
  }
  canvas {
    width: 100%;
    height: 172px;
  }
  .words span {
    position: absolute;
    top: 0;
    overflow: hidden;
    font-size: 13px;
    white-space: nowrap;
  }
  .words .touched {
    color: var(--grape);
    font-weight: 700;
  }
  .edge {
    position: absolute;
    top: 22px;
    width: 11px;
    height: 62px;
    margin-left: -5px;
    border: solid var(--leaf);
    border-width: 0 2px 0 0;
    cursor: ew-resize;
  }
  .edge.start {
    margin-left: 0;
    border-width: 0 0 0 2px;
  }
  .edge.end {
    margin-left: -11px;
  }
  .edge:hover {
    background: color-mix(in oklab, var(--leaf), transparent 70%);
  }
  .head {
    position: absolute;
    width: 2px;
    height: 62px;
    margin-left: -1px;
    background: var(--grape);
    pointer-events: none;
  }
  .name {
    position: absolute;
    left: 8px;
    padding: 0 4px;
    background: color-mix(in oklab, var(--paper), transparent 20%);
    color: var(--soft-ink);
    font-size: 12px;
    pointer-events: none;
  }
  .zoom {
    position: absolute;
    top: 84px;
    right: 8px;
    display: flex;
    background: color-mix(in oklab, var(--paper), transparent 20%);
    cursor: default;
  }
  .none {
    position: absolute;
    inset: 60px auto auto 24px;
  }
</style>
