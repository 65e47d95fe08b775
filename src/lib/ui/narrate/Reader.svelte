<script lang="ts">
  import type { ScriptToken } from '$lib/core/narration';
  import { phrases } from './phrases';

  /** The script, scrolled by what is heard; a click says where the reading goes on. */
  interface Props {
    script: readonly ScriptToken[];
    /** The word that is read next. */
    at: number;
    onReadOn: (word: number) => void;
  }
  let { script, at, onReadOn }: Props = $props();
  /** Between words: white space at the end of a block is not kept. */
  const GAP = ' ';
  let box = $state<HTMLElement | undefined>();

  const paragraphs = $derived.by(() => {
    const found: { readonly token: ScriptToken; readonly at: number }[][] = [];
    script.forEach((token, place) => (found[token.paragraph] ??= []).push({ token, at: place }));
    return found;
  });
  $effect(() => {
    const word = box?.querySelector<HTMLElement>(`[data-at="${Math.min(at, script.length - 1)}"]`);
    if (box === undefined || word == null) return;
    // A third from the top: what comes is seen.
    box.scrollTo({ top: word.offsetTop - box.clientHeight / 3, behavior: 'smooth' });
  });
  function choose(event: MouseEvent): void {
    const place = (event.target as HTMLElement).closest<HTMLElement>('[data-at]')?.dataset.at;
    if (place !== undefined) onReadOn(Number(place));
  }
  function step(event: KeyboardEvent): void {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 10, ArrowUp: -10 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onReadOn(Math.max(0, Math.min(script.length, at + by)));
  }
</script>

<!-- Arrows step through it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<section
  aria-label={phrases.script}
  data-testid="script"
  tabindex="0"
  bind:this={box}
  onclick={choose}
  onkeydown={step}
>
  {#each paragraphs as words, paragraph (paragraph)}
    <p>
      {#each words as { token, at: place } (place)}
        <span data-at={place} class:read={place < at} class:next={place === at}>{token.text}</span>{GAP}
      {/each}
    </p>
  {/each}
</section>

<style>
  section {
    position: relative;
    overflow-y: auto;
    min-height: 0;
    padding: 8px 14px 40vh;
    font-size: 20px;
    line-height: 1.55;
  }
  p {
    margin: 0 0 14px;
  }
  span {
    cursor: pointer;
  }
  .read {
    color: var(--soft-ink);
  }
  .next {
    border-radius: 8px 2px;
    background: var(--pale-leaf);
    outline: 2px solid var(--leaf);
    outline-offset: 1px;
  }
</style>
