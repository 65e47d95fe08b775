<script lang="ts">
  import type { WordId } from '$lib/core/id';
  import { onMount } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Page from './Page.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let page = $state<{
    focus(): void;
    enter(): void;
    selectedWords(): readonly WordId[];
    wordAtCaret(): WordId | null;
    moveCaret(wordId: WordId): void;
  }>();

  onMount(() => {
    desk.surface = {
      focus: () => page?.focus(),
      enter: () => page?.enter(),
      selectedWords: () => page?.selectedWords() ?? [],
      wordAtCaret: () => page?.wordAtCaret() ?? null,
      moveCaret: (wordId) => page?.moveCaret(wordId)
    };
    page?.focus();
    return () => (desk.surface = null);
  });
</script>

<h2 class="unseen">{phrases.read.read}</h2>
<Page bind:this={page} />
