<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { get } from 'svelte/store';
  import { formatClock } from '$lib/core/time';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import Hesitations from './Hesitations.svelte';
  import Speakers from './Speakers.svelte';
  import { paragraphsOf } from './page-model';

  const workspace = useWorkspace();
  const ROW_PX = 44;
  const paragraphs = $derived(paragraphsOf(workspace.track));
  let box = $state<HTMLElement | undefined>();
  const virtual = createVirtualizer<HTMLElement, HTMLLIElement>({
    count: 0,
    getScrollElement: () => box ?? null,
    estimateSize: () => ROW_PX,
    overscan: 6
  });
  $effect(() => {
    const count = paragraphs.length;
    const element = box;
    get(virtual).setOptions({ count, getScrollElement: () => element ?? null });
  });
  /** The paragraph that is spoken, or chosen. */
  const here = $derived.by(() => {
    const id = workspace.spokenWordId ?? workspace.wordId;
    return id === null ? -1 : paragraphs.findIndex(({ words }) => words.some((word) => word.id === id));
  });
</script>

<Speakers />
<Hesitations />
<section aria-labelledby="outline-title">
  <h3 id="outline-title">{paragraphs.length} {paragraphs.length === 1 ? 'paragraph' : 'paragraphs'}</h3>
  <div class="list" bind:this={box}>
    <ol style:height="{$virtual.getTotalSize()}px">
      {#each $virtual.getVirtualItems() as item (item.key)}
        {@const paragraph = paragraphs[item.index]}
        {#if paragraph !== undefined}
          <li style:transform="translateY({item.start}px)">
            <button
              aria-current={item.index === here}
              class:here={item.index === here}
              onclick={() => workspace.chooseWord(paragraph.words[0])}
            >
              <span class="mono soft">{formatClock(paragraph.startMs)}</span>
              <span class="text"
                >{#if paragraph.speaker !== null}<b>{paragraph.speaker}</b>{/if}
                {paragraph.text.slice(0, 120)}</span
              >
            </button>
          </li>
        {/if}
      {/each}
    </ol>
  </div>
</section>

<style>
  h3 {
    margin-bottom: 6px;
    font-weight: 700;
  }
  .list {
    height: 300px;
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
    width: 100%;
    height: 44px;
    padding: 2px 6px;
    border-radius: 6px;
    text-align: left;
    align-items: center;
  }
  .text {
    display: -webkit-box;
    overflow: hidden;
    font-size: 14px;
    line-height: 1.3;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
  }
  b {
    color: var(--leaf);
  }
  button:hover,
  button.here {
    background: var(--pale-leaf);
  }
</style>
