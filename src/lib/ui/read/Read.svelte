<script lang="ts">
  import { onMount } from 'svelte';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import Page from './Page.svelte';

  const workspace = useWorkspace();
  let page = $state<{
    focus(): void;
    enter(): void;
    selectedWords(): readonly string[];
    wordAtCaret(): string | null;
  }>();

  onMount(() => {
    workspace.surface = {
      focus: () => page?.focus(),
      enter: () => page?.enter(),
      selectedWords: () => page?.selectedWords() ?? [],
      wordAtCaret: () => page?.wordAtCaret() ?? null
    };
    page?.focus();
    return () => (workspace.surface = null);
  });
</script>

<h2 class="unseen">Read</h2>
<Page bind:this={page} />
