<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { tick, untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import RowView from './RowView.svelte';
  import RowInHand from './RowInHand.svelte';
  import { phrases } from './phrases';

  /** Source and translation side by side, row under row; the one in hand is written in. */
  const desk = useTrackDesk();
  const { translating } = desk;
  const ROW_PX = 62;
  let box = $state<HTMLElement | undefined>();
  let inHand = $state<{ focus(): void } | undefined>();

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => ROW_PX
  });
  $effect(() => {
    const element = box ?? null;
    const { listed } = translating;
    untrack(() =>
      get(virtual).setOptions({
        count: listed.length,
        getScrollElement: () => element,
        getItemKey: (at) => listed[at] ?? at,
        estimateSize: () => ROW_PX,
        overscan: 6
      })
    );
  });
  $effect(() => {
    const { at, listed } = translating;
    const place = listed.indexOf(at);
    if (place >= 0 && box !== undefined) untrack(() => get(virtual).scrollToIndex(place, { align: 'auto' }));
  });
  const measured = (element: HTMLElement): void => get(virtual).measureElement(element);

  export function focus(): void {
    box?.focus();
  }
  export function enter(): void {
    if (translating.at < 0) translating.step(1);
    translating.beginRow();
    void tick().then(() => inHand?.focus());
  }
  function choose(at: number): void {
    if (at === translating.at) return;
    translating.choose(at);
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="list" bind:this={box} tabindex="0" data-surface role="region" aria-label={phrases.rows.label}>
  <div class="all" role="list" style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const at = translating.listed[item.index]}
      {@const row = at === undefined ? undefined : translating.rows[at]}
      {#if at !== undefined && row !== undefined}
        <div
          class="row"
          class:here={at === translating.at}
          role="listitem"
          aria-setsize={translating.listed.length}
          aria-posinset={item.index + 1}
          aria-current={at === translating.at}
          data-index={item.index}
          style:transform="translateY({item.start}px)"
          use:measured
        >
          {#if at === translating.at}
            <RowInHand {row} {at} bind:this={inHand} onNext={enter} />
          {:else}<RowView {row} {at} onChoose={() => choose(at)} />{/if}
        </div>
      {/if}
    {/each}
  </div>
  {#if translating.listed.length === 0}
    <p class="soft none">{translating.rows.length === 0 ? phrases.rows.none : phrases.rows.noneListed}</p>
  {/if}
</div>

<style>
  .list {
    min-height: 0;
    overflow-y: auto;
    outline-offset: -2px;
  }
  .all {
    position: relative;
  }
  .row {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
    border-bottom: 1px solid var(--rule);
  }
  .row.here {
    background: var(--pale-leaf);
    box-shadow: inset 4px 0 0 var(--leaf);
  }
  .none {
    padding: 28px;
  }
</style>
