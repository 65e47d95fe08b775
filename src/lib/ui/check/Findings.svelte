<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { findCheck, GROUPS, MISSING, type Finding } from '$lib/core/checks';
  import { formatClock } from '$lib/core/time';
  import { lookUp, plainLines } from '$lib/core/track';
  import { titleOf } from '$lib/client/checks/check-list.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Mark from './Mark.svelte';
  import { phrases } from './phrases';

  /** Every finding of a group, in the order of time. */
  const desk = useTrackDesk();
  const { checks } = desk;
  const ROW_PX = 52;
  let box = $state<HTMLElement | undefined>();

  const shown = $derived(checks.showsAccepted ? checks.stands : checks.open);
  const counts = $derived.by(() => {
    const byGroup = new Map<string, number>();
    for (const { group } of shown) byGroup.set(group, (byGroup.get(group) ?? 0) + 1);
    return byGroup;
  });
  const textOf = ({ cueId }: Finding): string => {
    const cue = cueId === null ? undefined : lookUp(desk.track).findCue(cueId);
    return cue === undefined ? '' : plainLines(desk.track, cue).join(' ');
  };

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => ROW_PX
  });
  $effect(() => {
    const element = box ?? null;
    const count = checks.listed.length;
    untrack(() =>
      get(virtual).setOptions({ count, getScrollElement: () => element, estimateSize: () => ROW_PX, overscan: 8 })
    );
  });
  $effect(() => {
    const { at } = checks;
    if (at >= 0 && box !== undefined) untrack(() => get(virtual).scrollToIndex(at, { align: 'auto' }));
  });

  function onKey(event: KeyboardEvent): void {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    checks.step(by);
  }
  export function focus(): void {
    box?.focus();
  }
</script>

<div class="findings">
  <header>
    <h2 data-testid="findings-left">
      {checks.state === 'there' ? phrases.list.left(checks.open.length) : phrases.list.checking}
    </h2>
    {#if checks.state === 'there' && checks.awaited.length > 0}
      <span class="soft awaited" role="status" data-testid="awaited">{phrases.list.awaited(checks.awaited)}</span>
    {/if}
    {#if checks.showsAccepted || checks.stands.length > 0}
      <button
        class="act quiet"
        aria-pressed={checks.showsAccepted}
        onclick={() => (checks.showsAccepted = !checks.showsAccepted)}
        >{checks.showsAccepted ? phrases.list.showLeft : phrases.list.stands(checks.stands.length)}</button
      >
    {/if}
    <div class="groups" role="group" aria-label={phrases.list.group}>
      {#each ['all', ...GROUPS] as const as group (group)}
        {@const count = group === 'all' ? shown.length : (counts.get(group) ?? 0)}
        <button
          class="act quiet"
          aria-pressed={checks.group === group}
          disabled={count === 0 && checks.group !== group}
          onclick={() => (checks.group = group)}>{phrases.groups[group]} <span class="mono">{count}</span></button
        >
      {/each}
    </div>
  </header>
  {#if checks.failure !== null}<p class="failed" role="alert">{checks.failure}</p>{/if}
  <!-- The keys of the surface act on it. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="list"
    bind:this={box}
    tabindex="0"
    data-surface
    role="region"
    aria-label={phrases.list.label}
    onkeydown={onKey}
  >
    <ol style:height="{$virtual.getTotalSize()}px">
      {#each $virtual.getVirtualItems() as row (row.key)}
        {@const finding = checks.listed[row.index]}
        {#if finding}
          <li
            style:transform="translateY({row.start}px)"
            aria-setsize={checks.listed.length}
            aria-posinset={row.index + 1}
          >
            <button
              class="row"
              tabindex="-1"
              aria-current={finding.key === checks.currentKey}
              onclick={() => checks.show(finding)}
            >
              <Mark severity={finding.severity} />
              <span class="mono"
                >{finding.cueId === null && finding.endMs === 0 ? '' : formatClock(finding.startMs)}</span
              >
              <span class="what"
                ><strong>{titleOf(finding)}</strong>
                <span class="soft text"
                  >{textOf(finding) || (finding.endMs === 0 ? phrases.list.track : phrases.list.stretch)}</span
                ></span
              >
              <span class="figure">{checks.accepted.get(finding.key) ?? finding.message}</span>
            </button>
          </li>
        {/if}
      {/each}
    </ol>
    {#if checks.state === 'there' && checks.listed.length === 0}
      <p class="none">
        {checks.showsAccepted
          ? phrases.list.noneStands
          : checks.open.length === 0
            ? phrases.list.allDone
            : phrases.list.noneHere}
      </p>
    {/if}
  </div>
  {#if checks.state === 'there' && checks.notChecked.length > 0}
    <details>
      <summary>{phrases.list.notChecked(checks.notChecked.length)}</summary>
      <ul>
        {#each checks.notChecked as { rule, needs } (rule)}
          <li><strong>{findCheck(rule)!.title}</strong> <span class="soft">{MISSING[needs]}</span></li>
        {/each}
      </ul>
    </details>
  {/if}
</div>

<style>
  .findings {
    display: grid;
    grid-template-rows: auto auto minmax(0, 1fr) auto;
    height: 100%;
    min-height: 0;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 14px;
    padding: 0 16px 8px;
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
  .awaited {
    font-size: 14px;
  }
  .groups {
    display: flex;
    flex-wrap: wrap;
    margin-left: auto;
  }
  .groups .act {
    padding: 3px 7px;
    font-size: 14px;
  }
  .groups .act:disabled {
    opacity: 0.55;
  }
  [aria-pressed='true'] {
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 4px;
  }
  .list {
    grid-row: 3;
    border-top: 1px solid var(--rule);
    overflow-y: auto;
    outline-offset: -2px;
  }
  ol {
    position: relative;
  }
  li {
    list-style: none;
  }
  ol > li {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
    height: 52px;
    border-bottom: 1px solid var(--rule);
  }
  .row {
    display: grid;
    grid-template-columns: 12px 52px minmax(0, 1.2fr) minmax(0, 1fr);
    gap: 12px;
    align-items: center;
    width: 100%;
    height: 100%;
    padding: 0 16px;
    text-align: left;
    cursor: pointer;
  }
  .row:hover,
  .row[aria-current='true'] {
    background: var(--pale-leaf);
  }
  .row[aria-current='true'] {
    box-shadow: inset 4px 0 0 var(--leaf);
  }
  .row .mono {
    font-size: 13px;
    text-align: right;
  }
  .what {
    display: grid;
    line-height: 20px;
  }
  .what strong,
  .text {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .text,
  .figure {
    font-size: 14px;
  }
  .figure {
    display: -webkit-box;
    overflow: hidden;
    line-height: 18px;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
  }
  .none {
    padding: 24px 16px;
  }
  .failed {
    padding: 0 16px 8px;
    color: var(--clay);
  }
  details {
    grid-row: 4;
    max-height: 30vh;
    padding: 8px 16px;
    border-top: 1px solid var(--rule);
    overflow-y: auto;
    font-size: 14px;
  }
  summary {
    cursor: pointer;
  }
</style>
