<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { onMount, untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { checkCues, type CueFinding } from '$lib/core/checks';
  import { messageOf } from '$lib/core/message-of';
  import { cueSpeaker, lookUp, plainLines, readingSpeed, type Cue, type Track } from '$lib/core/track';
  import { CueBreaker } from '$lib/client/breaking';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** The cues read down a column: sorted, filtered, with the keys of the trellis. */
  const desk = useTrackDesk();
  const ROW_PX = 46;

  const SORTS = {
    time: (cue: Cue) => cue.startMs,
    lasts: (cue: Cue) => cue.endMs - cue.startMs,
    speed: (cue: Cue) => -readingSpeed(desk.drawn, cue)
  } as const;
  type Sort = keyof typeof SORTS;
  const FILTERS = {
    all: phrases.cueTable.everyCue,
    broken: phrases.cueTable.breaksARule,
    bookmark: phrases.cueTable.bookmarked,
    note: phrases.cueTable.withANote,
    locked: phrases.cueTable.locked,
    byHand: phrases.cueTable.brokenByHand,
    byRules: phrases.cueTable.asTheRulesBreak
  } as const;
  type Filter = keyof typeof FILTERS;

  let sort = $state<Sort>('time');
  let filter = $state<Filter>('all');
  let box = $state<HTMLElement | undefined>();

  const findings: ReadonlyMap<string, readonly CueFinding[]> = $derived.by(() => {
    const byCue = new Map<string, CueFinding[]>();
    for (const finding of checkCues(desk.drawn, desk.recording.durationMs)) {
      const own = byCue.get(finding.cueId);
      if (own === undefined) byCue.set(finding.cueId, [finding]);
      else own.push(finding);
    }
    return byCue;
  });
  const breaker = new CueBreaker();
  onMount(() => () => breaker.close());
  const shape = (cue: Cue): string => `${cue.wordIds.join()} ${cue.lineStarts.join()}`;
  /** Shapes of the cues as breaking them anew would make them. */
  let shapes = $state.raw<ReadonlySet<string>>(new Set());
  $effect(() => {
    if (filter !== 'byHand' && filter !== 'byRules') return;
    const { drawn } = desk;
    const unlocked: Track = { ...drawn, cues: drawn.cues.map((cue) => (cue.locked ? { ...cue, locked: false } : cue)) };
    breaker.break(unlocked, drawn.rules).then(
      (made) => made !== null && (shapes = new Set(made.map(shape))),
      (error: unknown) => desk.say(messageOf(error))
    );
  });
  const isListed = (cue: Cue): boolean => {
    switch (filter) {
      case 'all':
        return true;
      case 'broken':
        return findings.has(cue.id);
      case 'bookmark':
        return cue.bookmark;
      case 'note':
        return cue.note !== '';
      case 'locked':
        return cue.locked;
      case 'byHand':
        return !shapes.has(shape(cue));
      case 'byRules':
        return shapes.has(shape(cue));
    }
  };
  const listed: readonly Cue[] = $derived.by(() => {
    const some = desk.drawn.cues.filter(isListed);
    const value = SORTS[sort];
    return sort === 'time' ? some : some.toSorted((one, other) => value(one) - value(other));
  });
  const numberOf = (cue: Cue): number => (lookUp(desk.drawn).cueAt.get(cue.id) ?? 0) + 1;
  const speakerOf = (cue: Cue): string => {
    const id = cueSpeaker(desk.drawn, cue);
    return desk.drawn.speakers.find((one) => one.id === id)?.name.split(' ')[0] ?? '';
  };

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => ROW_PX
  });
  $effect(() => {
    const element = box ?? null;
    const count = listed.length;
    untrack(() =>
      get(virtual).setOptions({ count, getScrollElement: () => element, estimateSize: () => ROW_PX, overscan: 8 })
    );
  });
  $effect(() => {
    const at = listed.findIndex((cue) => cue.id === desk.cueId);
    if (at >= 0 && box !== undefined) untrack(() => get(virtual).scrollToIndex(at, { align: 'auto' }));
  });

  function choose(cue: Cue, event: MouseEvent): void {
    if (event.shiftKey) desk.cues.extendTo(cue);
    else if (event.ctrlKey || event.metaKey) desk.cues.toggle(cue);
    else desk.chooseCue(cue);
    desk.player.seek(cue.startMs);
  }
  export function focus(): void {
    box?.focus();
  }
  const HEADS: readonly { readonly id: Sort; readonly label: string }[] = [
    { id: 'time', label: phrases.cueTable.inOut },
    { id: 'lasts', label: 'duration' },
    { id: 'speed', label: phrases.cueTable.readingSpeed }
  ];
</script>

<div class="cues">
  <div class="head">
    <label
      ><span class="unseen">{phrases.cueTable.show}</span>
      <select class="field" bind:value={filter} data-testid="cue-filter">
        {#each Object.entries(FILTERS) as [id, label] (id)}<option value={id}>{label}</option>{/each}
      </select></label
    >
    <span class="soft">{phrases.cueTable.countOf(listed.length, desk.drawn.cues.length)}</span>
    <span class="sorts" role="group" aria-label={phrases.cueTable.sortBy}>
      {#each HEADS as { id, label } (id)}
        <button class="act quiet" aria-pressed={sort === id} onclick={() => (sort = id)}>{label}</button>
      {/each}
    </span>
  </div>
  <!-- The keys of the surface act on it. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="list" bind:this={box} tabindex="0" data-surface role="region" aria-label={phrases.cueTable.cuesAsATable}>
    <table style:height="{$virtual.getTotalSize()}px" aria-rowcount={listed.length}>
      <tbody>
        {#each $virtual.getVirtualItems() as row (row.key)}
          {@const cue = listed[row.index]}
          {#if cue}
            {@const broken = findings.get(cue.id) ?? []}
            {@const speed = readingSpeed(desk.drawn, cue)}
            <tr
              aria-rowindex={row.index + 1}
              aria-selected={desk.cues.chosenIds.has(cue.id)}
              class:here={cue.id === desk.cueId}
              class:also={desk.cues.chosenIds.has(cue.id)}
              style:transform="translateY({row.start}px)"
              onclick={(event) => choose(cue, event)}
              ondblclick={() => desk.surface?.enter()}
            >
              <td class="mono number">{numberOf(cue)}</td>
              <td class="mono">{desk.on.showTime(cue.startMs)}<br />{desk.on.showTime(cue.endMs)}</td>
              <td class="mono">{((cue.endMs - cue.startMs) / 1000).toFixed(2)}</td>
              <td class="mono" class:over={speed > desk.drawn.rules.maxCharsPerSecond}>{Math.round(speed)}</td>
              <td class="text"
                >{#each plainLines(desk.drawn, cue) as line, at (at)}<div>{line}</div>{/each}</td
              >
              <td class="soft speaker">{speakerOf(cue)}</td>
              <td class="broken" title={broken.map((one) => one.message).join('\n')}
                >{broken[0]?.message ?? ''}{broken.length > 1 ? ` (+${broken.length - 1})` : ''}</td
              >
            </tr>
          {/if}
        {/each}
      </tbody>
    </table>
    {#if listed.length === 0}
      <p class="soft none">
        {desk.drawn.cues.length === 0 ? phrases.cueTable.thereAreNoCues : phrases.cueTable.noCueIsLike}
      </p>
    {/if}
  </div>
</div>

<style>
  .cues {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    height: 100%;
    min-height: 0;
    background: var(--sheet);
  }
  .head {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 8px 14px;
    border-bottom: 1px solid var(--rule);
    font-size: 14px;
  }
  .sorts {
    margin-left: auto;
  }
  .sorts [aria-pressed='true'] {
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 4px;
  }
  .list {
    overflow-y: auto;
    outline-offset: -2px;
  }
  table {
    display: block;
    position: relative;
    width: 100%;
  }
  tr {
    position: absolute;
    top: 0;
    left: 0;
    display: grid;
    grid-template-columns: 44px 96px 48px 34px minmax(0, 1fr) 64px minmax(0, 190px);
    gap: 10px;
    align-items: center;
    width: 100%;
    height: 46px;
    padding: 0 14px;
    border-bottom: 1px solid var(--rule);
    font-size: 14px;
    line-height: 18px;
    cursor: pointer;
  }
  tr:hover,
  tr.also {
    background: var(--pale-leaf);
  }
  tr.here {
    box-shadow: inset 4px 0 0 var(--leaf);
    background: var(--pale-leaf);
  }
  td {
    overflow: hidden;
  }
  .mono {
    font-size: 13px;
    line-height: 17px;
  }
  .number {
    color: var(--soft-ink);
    text-align: right;
  }
  .text div,
  .speaker {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .over,
  .broken {
    color: var(--clay);
  }
  .over {
    font-weight: 700;
  }
  .broken {
    display: -webkit-box;
    font-size: 13px;
    line-height: 16px;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
  }
  .none {
    padding: 24px;
  }
</style>
