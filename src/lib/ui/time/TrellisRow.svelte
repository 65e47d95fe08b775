<script lang="ts">
  import { doubtIn } from '$lib/core/doubts';
  import { laneSpans, layWords, type Row } from '$lib/core/rows';
  import { formatClock, lastStartingBy } from '$lib/core/time';
  import { checkCue } from '$lib/core/checks';
  import type { Snap } from '$lib/core/timing';
  import type { Span } from '$lib/core/time';
  import { lookUp, plainLines, readingSpeed, shownWords, type Cue, type Word } from '$lib/core/track';
  import type { Sound } from '$lib/client/recording-view.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { preferences } from '$lib/client/preferences.svelte';
  import { measureText, REPEAT_MS, xOf, type Geometry } from './geometry';
  import { remembering } from './remember';
  import type { RowSource } from './row-source';
  import { drawnSpan, drawSpectrum, drawWave } from './wave';
  import { phrases } from './phrases';

  interface Props {
    source: RowSource;
    row: Row;
    geometry: Geometry;
    sound: Sound | null;
    gain: number;
    /** Cues in order, with the times of the one being dragged. */
    cues: readonly Cue[];
    /** A new cue that a hand draws. */
    drawing: Span | null;
    /** Where an edge in hand has been caught. */
    caught: Snap | null;
    fontsAt: number;
    nearMs: number;
  }
  let { source, row, geometry, sound, gain, cues, drawing, caught, fontsAt, nearMs }: Props = $props();
  const desk = useTrackDesk();
  let canvas = $state<HTMLCanvasElement | undefined>();
  let spectrumCanvas = $state<HTMLCanvasElement | undefined>();

  $effect(() => {
    // Drawn anew when the theme changes its colours.
    void preferences.mode;
    if (!canvas || sound === null) return;
    const { levels, speech } = sound;
    const { durationMs } = source;
    drawWave(canvas, { geometry, row, levels, regions: speech.regions, durationMs, gain });
  });

  $effect(() => {
    void preferences.mode;
    const onto = spectrumCanvas;
    if (!onto) return;
    const drawn = { geometry, row };
    let isGone = false;
    void source.spectrumOf?.(drawnSpan(row, source.durationMs)).then((bytes) => {
      if (!isGone && bytes !== null) drawSpectrum(onto, { ...drawn, bytes });
    });
    return () => (isGone = true);
  });

  const isInRow = (ms: number): boolean => ms >= row.startMs - REPEAT_MS && ms < row.endMs + REPEAT_MS;
  const joins = $derived(source.joinsMs.filter(isInRow));
  const shots = $derived(row.kind === 'folded' ? [] : source.shotsMs.filter(isInRow));
  /** The part of a stretch that lies on this row, in px; `null` for none. */
  const placeOf = (span: Span): { left: number; width: number } | null => {
    const left = Math.max(geometry.gutter, xOf(geometry, row, Math.max(span.startMs, row.startMs - REPEAT_MS)));
    const right = xOf(geometry, row, Math.min(span.endMs, row.endMs + REPEAT_MS));
    return right > left ? { left, width: right - left } : null;
  };
  const drawnPlace = $derived(drawing === null ? null : placeOf(drawing));
  /** Where cues stand that something else is tried for. */
  const ghosts = $derived.by(() => {
    if (source.standing === null) return [];
    const { findCue } = lookUp(source.track);
    return source.standing.flatMap((cue) => {
      if (cue.endMs < row.startMs || cue.startMs > row.endMs) return [];
      const now = findCue(cue.id);
      const isSame = now?.startMs === cue.startMs && now.endMs === cue.endMs;
      return isSame ? [] : (placeOf(cue) ?? []);
    });
  });
  /** What a cue breaks besides its reading speed, in a word. */
  const BROKEN: Readonly<Record<string, string>> = {
    min_duration: 'short',
    max_duration: 'long',
    line_length: 'wide',
    line_count: 'lines',
    past_end: phrases.trellisRow.pastTheEnd,
    late_start: phrases.trellisRow.offItsWords,
    off_words: phrases.trellisRow.offItsWords
  };

  const ticks = $derived.by(() => {
    const stepMs = geometry.density === 'wide' ? 5000 : 1000;
    const all: { ms: number; x: number; isNamed: boolean }[] = [];
    for (let ms = Math.ceil(row.startMs / stepMs) * stepMs; ms < row.endMs; ms += stepMs) {
      all.push({ ms, x: xOf(geometry, row, ms), isNamed: ms % (geometry.density === 'wide' ? 10_000 : 5000) === 0 });
    }
    return all;
  });

  const rememberWords = remembering<Word>();
  const wordsHere = $derived.by(() => {
    const mine: Word[] = [];
    if (geometry.words === null) return mine;
    const { spokenOrder } = source;
    for (
      let at = lastStartingBy(spokenOrder, row.startMs - 1) + 1;
      at < spokenOrder.length && spokenOrder[at]!.startMs < row.endMs;
      at++
    ) {
      const word = spokenOrder[at]!;
      const isWanted =
        geometry.density === 'close' ||
        word.id === desk.wordId ||
        desk.finder.hitIds.has(word.id) ||
        doubtIn(word) > 0 ||
        Math.abs(word.startMs - nearMs) < 2500;
      if (isWanted) mine.push(word);
    }
    return rememberWords(mine.map((word) => ({ key: word.id, from: [word], make: () => word })));
  });
  const words = $derived.by(() => {
    void fontsAt;
    const byId = new Map(wordsHere.map((word) => [word.id, word]));
    const laid = layWords(
      wordsHere.map((word) => ({
        id: word.id,
        text: word.text,
        x: xOf(geometry, row, word.startMs) - geometry.gutter
      })),
      { width: geometry.width - geometry.gutter - 4, gap: 7, measure: (text) => measureText('words', text) }
    );
    return laid.map((one) => ({ ...one, word: byId.get(one.id)! }));
  });

  interface Block {
    readonly cue: Cue;
    readonly left: number;
    readonly width: number;
    readonly lane: number;
    readonly lanes: number;
    readonly startsHere: boolean;
    readonly endsHere: boolean;
    readonly lines: readonly string[];
    /** Characters a second. */
    readonly speed: number;
    /** The speed as a share of what the rules allow. */
    readonly load: number;
    /** Empty where it keeps the rules. */
    readonly broken: string;
    readonly isClipped: boolean;
    readonly touches: boolean;
  }
  const rememberBlocks = remembering<Block>();
  const blocks: readonly Block[] = $derived.by(() => {
    const fromMs = row.startMs - REPEAT_MS;
    const toMs = row.endMs + REPEAT_MS;
    const mine: Cue[] = [];
    // Overlapping cues may start long before: a few more are looked at.
    for (let at = Math.max(0, lastStartingBy(cues, fromMs) - 12); at < cues.length && cues[at]!.startMs < toMs; at++) {
      if (cues[at]!.endMs > fromMs) mine.push(cues[at]!);
    }
    const track = source.track;
    const { cueAt } = lookUp(track);
    return rememberBlocks(
      laneSpans(mine).map(({ item: cue, lane, lanes }) => {
        const at = cueAt.get(cue.id);
        const before = at === undefined ? undefined : track.cues[at - 1];
        const touches = mine.some((other) => other.endMs === cue.startMs);
        const shown = shownWords(track, cue);
        return {
          key: cue.id,
          // Lines, speed and findings of a cue are made from these of a track.
          from: [
            cue,
            before,
            lane,
            lanes,
            touches,
            geometry,
            row,
            fontsAt,
            track.rules,
            track.speakers,
            track.language,
            ...shown
          ],
          make: () => blockOf(cue, at, { lane, lanes, touches })
        };
      })
    );
  });

  function blockOf(
    cue: Cue,
    at: number | undefined,
    { lane, lanes, touches }: Pick<Block, 'lane' | 'lanes' | 'touches'>
  ): Block {
    const fromMs = row.startMs - REPEAT_MS;
    const toMs = row.endMs + REPEAT_MS;
    const left = Math.max(geometry.gutter, xOf(geometry, row, Math.max(cue.startMs, fromMs)));
    const right = xOf(geometry, row, Math.min(cue.endMs, toMs));
    const lines = plainLines(source.track, cue);
    const speed = readingSpeed(source.track, cue);
    const broken = at === undefined ? [] : checkCue(source.track, at, source.durationMs);
    const width = Math.max(3, right - left);
    const isTail = (cue.startMs < fromMs || cue.endMs > toMs) && width < 90;
    const isSingle = geometry.density === 'wide' || lanes > 1;
    const shown = isTail ? [] : isSingle ? [lines.join(' ')] : lines;
    return {
      cue,
      left,
      width,
      lane,
      lanes,
      startsHere: cue.startMs >= fromMs,
      endsHere: cue.endMs <= toMs,
      lines: shown,
      speed,
      load: speed / source.track.rules.maxCharsPerSecond,
      broken: broken.flatMap(({ rule }) => BROKEN[rule] ?? [])[0] ?? '',
      isClipped:
        shown.length > 2 ||
        shown.some((line, at) => measureText('lines', line) + (at > 0 || isSingle ? 42 : 17) > width),
      touches
    };
  }

  const speaker = $derived.by(() => {
    const at = lastStartingBy(source.spokenOrder, row.endMs - 1);
    for (let back = at; back >= 0 && source.spokenOrder[back]!.startMs >= row.startMs; back--) {
      const word = source.spokenOrder[back]!;
      if (word.startsParagraph && word.speakerId !== null)
        return source.track.speakers.find((one) => one.id === word.speakerId)?.name.split(' ')[0];
    }
    return undefined;
  });
  const middleOf = (cue: Cue): boolean => {
    const inRow = Math.min(cue.endMs, row.endMs) - Math.max(cue.startMs, row.startMs);
    return inRow * 2 >= cue.endMs - cue.startMs;
  };
</script>

{#if row.kind === 'folded'}
  <div class="fold" style:height="{geometry.foldHeight}px">
    <span class="mono">{formatClock(row.startMs)}</span>
    <i></i>
    <span>{phrases.trellisRow.silence(Math.round((row.endMs - row.startMs) / 1000))}</span>
    <i></i>
  </div>
{:else}
  <div class="row {geometry.density}" style:height="{geometry.rowHeight}px">
    <div class="margin" style:top="{geometry.sound.top}px">
      <span class="mono">{formatClock(row.startMs)}</span>
      {#if speaker && geometry.density !== 'wide'}<b>{speaker}</b>{/if}
    </div>
    <div class="ruler" aria-hidden="true">
      {#each ticks as tick (tick.ms)}
        <span
          class:named={tick.isNamed}
          style:left="{tick.x}px"
          style:height="{tick.isNamed ? geometry.ruler - 2 : 5}px">{tick.isNamed ? formatClock(tick.ms) : ''}</span
        >
      {/each}
    </div>
    {#if geometry.wave}
      <canvas
        bind:this={canvas}
        style:top="{geometry.wave.top}px"
        style:width="{geometry.width}px"
        style:height="{geometry.wave.height}px"
        aria-hidden="true"
      ></canvas>
    {/if}
    {#if geometry.spectrum}
      <canvas
        bind:this={spectrumCanvas}
        style:top="{geometry.spectrum.top}px"
        style:width="{geometry.width}px"
        style:height="{geometry.spectrum.height}px"
        aria-hidden="true"
      ></canvas>
    {/if}
    {#each shots as shot (shot)}
      <i
        class="shot"
        style:left="{xOf(geometry, row, shot)}px"
        style:height="{geometry.cues.top}px"
        title={phrases.trellisRow.shotChange}
      ></i>
    {/each}
    {#each joins as join (join)}
      <i
        class="join"
        style:left="{xOf(geometry, row, join)}px"
        style:top="{geometry.sound.top}px"
        style:height="{geometry.cues.top - geometry.sound.top}px"
        title={phrases.trellisRow.join}
      ></i>
    {/each}
    {#if caught !== null && isInRow(caught.ms)}
      <i class="caught" style:left="{xOf(geometry, row, caught.ms)}px" style:height="{geometry.rowHeight - 8}px"></i>
    {/if}
    {#each ghosts as ghost, at (at)}
      <i
        class="ghost"
        style:left="{ghost.left}px"
        style:width="{ghost.width}px"
        style:top="{geometry.cues.top - 3}px"
        style:height="{geometry.cues.height + 6}px"
      ></i>
    {/each}
    {#if drawnPlace !== null}
      <i
        class="drawn"
        style:left="{drawnPlace.left}px"
        style:width="{drawnPlace.width}px"
        style:top="{geometry.cues.top}px"
        style:height="{geometry.cues.height}px"
      ></i>
    {/if}
    {#if geometry.words}
      <div class="words" style:top="{geometry.words.top}px" style:left="{geometry.gutter}px" aria-hidden="true">
        {#each words as { word, text, x, width, level } (word.id)}
          <span
            class="word"
            class:chosen={word.id === desk.wordId}
            class:hit={desk.finder.hitIds.has(word.id)}
            class:sound={word.kind === 'sound'}
            class:left-out={!word.shown}
            style:left="{x}px"
            style:top="{level * geometry.words.level}px"
            style:width="{width}px"
            data-word={word.id}
            >{text}{#if doubtIn(word) > 0}<i style:width="{Math.max(6, width * doubtIn(word))}px"></i>{/if}</span
          >
        {/each}
      </div>
    {/if}
    {#each blocks as block (block.cue.id)}
      {@const isChosen = block.cue.id === desk.cueId}
      {@const isSpoken = block.cue.id === desk.spokenCueId}
      {@const height = geometry.cues.height / block.lanes}
      {@const top = geometry.cues.top + block.lane * height}
      {#if isChosen}
        {#if block.startsHere}<i
            class="beam"
            style:left="{block.left}px"
            style:top="{geometry.sound.top - 4}px"
            style:height="{top - geometry.sound.top + 6}px"
          ></i>{/if}
        {#if block.endsHere}<i
            class="beam"
            style:left="{block.left + block.width - 2}px"
            style:top="{geometry.sound.top - 4}px"
            style:height="{top - geometry.sound.top + 6}px"
          ></i>{/if}
      {/if}
      <div
        class="cue"
        class:chosen={isChosen}
        class:also={!isChosen && desk.cues.chosenIds.has(block.cue.id)}
        class:spoken={isSpoken && !isChosen}
        class:open-start={!block.startsHere}
        class:open-end={!block.endsHere}
        class:touches={block.touches}
        class:over={block.load > 1}
        class:small={block.width < 34}
        class:single={geometry.density === 'wide' || block.lanes > 1}
        style:left="{block.left}px"
        style:top="{top}px"
        style:width="{block.width}px"
        style:height="{height - (block.lanes > 1 ? 1 : 0)}px"
        data-cue={block.cue.id}
        data-part="body"
        role="button"
        tabindex={isChosen ? 0 : -1}
        aria-pressed={isChosen || desk.cues.chosenIds.has(block.cue.id)}
        aria-label={phrases.trellisRow.cue({
          ...{ from: formatClock(block.cue.startMs, 2), to: formatClock(block.cue.endMs, 2) },
          ...{ text: block.lines.join(' '), broken: block.broken, isLocked: block.cue.locked }
        })}
      >
        <div class="lines">
          {#each block.lines as line, at (at)}<div>{line}</div>{/each}
        </div>
        <span class="speed mono">{Math.round(block.speed)}{block.load > 1 ? '!' : ''}</span>
        <span class="bar"><i style:width="{Math.min(100, block.load * 100)}%"></i></span>
        {#if block.startsHere}<span class="edge start" data-cue={block.cue.id} data-part="start"></span>{/if}
        {#if block.endsHere}<span class="edge end" data-cue={block.cue.id} data-part="end"></span>{/if}
        {#if block.broken !== '' && block.width > 110}<span class="broken">{block.broken}</span>{/if}
        {#if block.cue.locked}<span class="locked" title={phrases.trellisRow.locked}></span>{/if}
        {#if block.cue.bookmark}<span class="bookmark" title={phrases.trellisRow.bookmarked}></span>{/if}
      </div>
      {#if (isChosen || isSpoken) && block.isClipped && middleOf(block.cue)}
        <div
          class="float"
          class:chosen={isChosen}
          style:top="{top + height + 1}px"
          style:left="{Math.min(
            block.left,
            Math.max(
              geometry.gutter,
              geometry.width - Math.max(0, ...block.lines.map((line) => measureText('lines', line))) - 30
            )
          )}px"
        >
          {#each block.lines as line, at (at)}<div>{line}</div>{/each}
        </div>
      {/if}
    {/each}
  </div>
{/if}

<style>
  .row,
  .fold {
    position: relative;
  }
  .fold {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 0 14px 0 10px;
    color: var(--soft-ink);
    font-size: 13px;
  }
  .fold .mono {
    width: 42px;
    text-align: right;
  }
  .fold i {
    flex: 1;
    height: 0;
    border-top: 1px dashed var(--rule);
  }
  .margin {
    position: absolute;
    left: 0;
    width: 54px;
    padding-right: 2px;
    color: var(--soft-ink);
    font-size: 14px;
    line-height: 18px;
    text-align: right;
  }
  .margin b {
    display: block;
    overflow: hidden;
    color: var(--ink);
    text-overflow: ellipsis;
  }
  .wide .margin {
    font-size: 13px;
  }
  .ruler span {
    position: absolute;
    top: 0;
    padding-left: 3px;
    border-left: 1px solid var(--rule);
    color: var(--soft-ink);
    font: 12px/13px var(--mono);
  }
  .ruler span.named {
    border-left-color: var(--soft-ink);
  }
  .ruler span:not(.named) {
    top: 8px;
  }
  .wide .ruler span {
    font-size: 11px;
    line-height: 10px;
  }
  .wide .ruler span:not(.named) {
    top: 5px;
  }
  .join {
    position: absolute;
    width: 3px;
    margin-left: -1px;
    border: solid var(--leaf);
    border-width: 0 1px;
  }
  canvas {
    position: absolute;
    left: 0;
    pointer-events: none;
  }
  .words {
    position: absolute;
  }
  .word {
    position: absolute;
    overflow: visible;
    color: var(--soft-ink);
    font-size: 13px;
    line-height: 14px;
    white-space: nowrap;
    cursor: pointer;
  }
  .word i {
    position: absolute;
    left: 0;
    bottom: -1px;
    height: 2px;
    border-radius: 1px;
    background: var(--straw);
  }
  .word.hit {
    background-color: color-mix(in oklab, var(--straw), transparent 65%);
  }
  .word.left-out {
    color: var(--soft-ink);
    text-decoration: line-through;
  }
  .word.sound {
    font-style: italic;
  }
  .word.chosen {
    color: var(--leaf);
    font-weight: 700;
    text-decoration: underline;
  }
  .word:global(.is-spoken) {
    z-index: 3;
    color: var(--on-grape);
    background: var(--grape);
    border-radius: 2px;
    box-shadow: 0 0 0 2px var(--grape);
  }
  .beam {
    position: absolute;
    width: 2px;
    background: var(--leaf);
    pointer-events: none;
  }
  .cue {
    position: absolute;
    z-index: 1;
    overflow: hidden;
    padding: 3px 4px 3px 9px;
    border: 1px solid color-mix(in oklab, var(--leaf), var(--pale-leaf) 65%);
    border-left: 2px solid var(--leaf);
    border-right: 2px solid var(--leaf);
    border-radius: var(--leaf-shape);
    background: var(--pale-leaf);
    color: var(--ink);
    cursor: grab;
    touch-action: none;
    user-select: none;
  }
  .cue:focus-visible {
    outline-offset: 1px;
    overflow: visible;
  }
  .cue.open-start {
    border-left-style: dotted;
    border-top-left-radius: 0;
    border-bottom-left-radius: 0;
  }
  .cue.open-end {
    border-right-style: dotted;
    border-top-right-radius: 0;
    border-bottom-right-radius: 0;
  }
  .cue.touches::before {
    content: '';
    position: absolute;
    left: -4px;
    top: 50%;
    width: 7px;
    height: 7px;
    margin-top: -3px;
    rotate: 45deg;
    background: var(--leaf);
  }
  .cue.spoken {
    border-color: var(--grape);
  }
  .cue.chosen {
    z-index: 2;
    background: var(--leaf);
    color: var(--on-leaf);
  }
  .cue.also {
    border-width: 2px;
    border-color: var(--leaf);
    background: color-mix(in oklab, var(--leaf), var(--pale-leaf) 72%);
  }
  .shot,
  .caught,
  .ghost,
  .drawn {
    position: absolute;
    pointer-events: none;
  }
  .shot {
    top: 0;
    border-left: 1px dashed var(--soft-ink);
  }
  .shot::before {
    content: '';
    position: absolute;
    top: 2px;
    left: -4px;
    width: 7px;
    height: 7px;
    rotate: 45deg;
    background: var(--soft-ink);
  }
  .caught {
    top: 0;
    z-index: 6;
    border-left: 2px dotted var(--grape);
  }
  .ghost {
    border: 1px dashed var(--soft-ink);
    border-radius: var(--leaf-shape);
  }
  .drawn {
    z-index: 5;
    border: 2px dashed var(--leaf);
    border-radius: var(--leaf-shape);
    background: color-mix(in oklab, var(--pale-leaf), transparent 30%);
  }
  .broken {
    position: absolute;
    right: 38px;
    bottom: 4px;
    padding: 0 3px;
    background: inherit;
    color: var(--clay);
    font-size: 12px;
    font-weight: 700;
    line-height: 14px;
  }
  .chosen .broken {
    color: inherit;
  }
  .locked {
    position: absolute;
    top: 5px;
    right: 6px;
    width: 9px;
    height: 7px;
    border-radius: 1px;
    background: currentColor;
  }
  .locked::before {
    content: '';
    position: absolute;
    left: 1px;
    top: -4px;
    width: 7px;
    height: 6px;
    border: 1.5px solid currentColor;
    border-bottom: none;
    border-radius: 4px 4px 0 0;
  }
  .lines {
    font-size: 14px;
    line-height: 17px;
  }
  .lines div {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* The reading speed stands in the lower right corner. */
  .lines div + div,
  .single .lines div {
    margin-right: 24px;
  }
  .wide .lines {
    line-height: 16px;
  }
  .speed {
    position: absolute;
    right: 5px;
    bottom: 4px;
    width: 24px;
    font-size: 12px;
    line-height: 14px;
    text-align: right;
    color: var(--soft-ink);
  }
  .chosen .speed {
    color: inherit;
  }
  .over .speed {
    color: var(--clay);
    font-weight: 700;
  }
  .cue.also .speed {
    color: var(--ink);
  }
  .over.chosen .speed {
    color: inherit;
  }
  .over.also .speed,
  .over.chosen .speed {
    text-decoration: underline;
  }
  .bar {
    position: absolute;
    left: 8px;
    right: 8px;
    bottom: 0;
    height: 2px;
  }
  .bar i {
    display: block;
    height: 100%;
    background: color-mix(in oklab, var(--leaf), transparent 40%);
  }
  .over .bar i {
    background: var(--clay);
  }
  .chosen .bar i {
    background: color-mix(in oklab, var(--on-leaf), transparent 30%);
  }
  .small .lines,
  .small .speed {
    display: none;
  }
  .small {
    padding: 0;
  }
  .edge {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 9px;
    cursor: ew-resize;
    touch-action: none;
  }
  .edge.start {
    left: 0;
  }
  .edge.end {
    right: 0;
  }
  .small .edge {
    width: 40%;
  }
  .bookmark {
    position: absolute;
    top: -1px;
    right: 20px;
    width: 8px;
    height: 12px;
    background: var(--grape);
    clip-path: polygon(0 0, 100% 0, 100% 100%, 50% 70%, 0 100%);
  }
  .float {
    position: absolute;
    z-index: 8;
    padding: 4px 10px;
    border: 1.5px solid var(--leaf);
    border-radius: var(--leaf-shape);
    background: var(--sheet);
    font-size: 14px;
    line-height: 17px;
    white-space: nowrap;
    pointer-events: none;
    box-shadow: 0 4px 14px rgb(0 0 0 / 0.16);
  }
</style>
