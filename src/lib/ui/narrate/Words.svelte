<script lang="ts">
  import { tick } from 'svelte';
  import type { LiveSentence, LiveWord } from '$lib/core/narration';
  import { phrases } from './phrases';

  /** What is heard while it is spoken, sentence by sentence; the last two words may still change. */
  interface Props {
    sentences: readonly LiveSentence<LiveWord>[];
    /** How many of the last words may still change. */
    pending: number;
  }
  let { sentences, pending }: Props = $props();
  const PALE = 2;
  let box = $state<HTMLElement | undefined>();

  const textOf = (words: readonly LiveWord[]): string => words.map(({ text }) => text).join(' ');
  const pale = $derived(Math.min(PALE, pending, sentences.at(-1)?.words.length ?? 0));

  // The newest line stays in sight, unless somebody has scrolled back.
  let isAtEnd = true;
  $effect(() => {
    void sentences;
    if (isAtEnd) void tick().then(() => box?.scrollTo({ top: box.scrollHeight }));
  });
</script>

<!-- It is scrolled by keys. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<section
  aria-label={phrases.words}
  data-testid="live-words"
  tabindex="0"
  bind:this={box}
  onscroll={({ currentTarget: at }) => (isAtEnd = at.scrollHeight - at.scrollTop - at.clientHeight < 40)}
>
  {#if sentences.length === 0}<p class="soft">{phrases.nothingYet}</p>{/if}
  {#each sentences as { words, isLeftOut }, at (words[0]!.startMs)}
    {@const paleHere = at === sentences.length - 1 ? pale : 0}
    {@const standing = textOf(words.slice(0, words.length - paleHere))}
    <p class:out={isLeftOut}>
      {#if isLeftOut}<s>{standing}</s> <span class="tag">{phrases.leftOut}</span>{:else}{standing}{/if}
      {#if paleHere > 0}<span class="pale">{textOf(words.slice(-paleHere))}</span>{/if}
    </p>
  {/each}
</section>

<style>
  section {
    overflow-y: auto;
    min-height: 0;
    padding: 8px 12px;
    font-size: 21px;
    line-height: 1.5;
  }
  p {
    max-width: 34em;
    margin: 0 0 10px;
  }
  p:not(.soft)::first-letter {
    text-transform: capitalize;
  }
  .out {
    color: var(--soft-ink);
    font-size: 17px;
  }
  .tag {
    padding: 1px 7px;
    border-radius: 8px 2px;
    background: var(--paper);
    color: var(--soft-ink);
    font-size: 13px;
  }
  .pale {
    color: var(--soft-ink);
  }
</style>
