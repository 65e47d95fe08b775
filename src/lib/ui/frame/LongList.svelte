<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack, type Snippet } from 'svelte';
  import { get } from 'svelte/store';
  import { formatClock } from '$lib/core/time';

  /** A list of thousands, of which only what is in sight is drawn: a time, two lines of text, and where it leads. */
  interface Props {
    label: string;
    count: number;
    /** Index of the current item, which is kept in view; -1 for none. */
    at: number;
    startMsOf: (at: number) => number;
    onChoose: (at: number) => void;
    text: Snippet<[at: number]>;
    /** Takes all the room there is. */
    isTall?: boolean;
  }
  let { label, count, at, startMsOf, onChoose, text, isTall = false }: Props = $props();

  const ROW_PX = 44;
  const MOST_PX = 300;
  let box = $state<HTMLElement | undefined>();
  const virtual = createVirtualizer<HTMLElement, HTMLLIElement>({
    count: 0,
    getScrollElement: () => box ?? null,
    estimateSize: () => ROW_PX,
    overscan: 6
  });
  $effect(() => {
    const element = box;
    const options = { count, getScrollElement: () => element ?? null };
    get(virtual).setOptions(options);
  });
  $effect(() => {
    if (at >= 0 && box !== undefined) untrack(() => get(virtual).scrollToIndex(at, { align: 'auto' }));
  });
</script>

<div class="list" bind:this={box} style:height={isTall ? '100%' : `${Math.min(MOST_PX, count * ROW_PX)}px`}>
  <ol aria-label={label} style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as row (row.key)}
      {#if row.index < count}
        <li aria-setsize={count} aria-posinset={row.index + 1} style:transform="translateY({row.start}px)">
          <button aria-current={row.index === at} class:here={row.index === at} onclick={() => onChoose(row.index)}>
            <span class="mono soft">{formatClock(startMsOf(row.index))}</span>
            <span class="text">{@render text(row.index)}</span>
          </button>
        </li>
      {/if}
    {/each}
  </ol>
</div>

<style>
  .list {
    overflow-y: auto;
  }
  ol {
    position: relative;
  }
  li {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
  }
  button {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 10px;
    align-items: center;
    width: 100%;
    height: 44px;
    padding: 2px 6px;
    border-radius: 6px;
    text-align: left;
  }
  .text {
    display: -webkit-box;
    overflow: hidden;
    font-size: 14px;
    line-height: 1.3;
    overflow-wrap: anywhere;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
  }
  button:hover,
  button.here {
    background: var(--pale-leaf);
  }
</style>
