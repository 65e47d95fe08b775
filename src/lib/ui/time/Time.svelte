<script lang="ts">
  import { onMount } from 'svelte';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import Trellis from './Trellis.svelte';

  const workspace = useWorkspace();
  let trellis = $state<{ focus(): void; stepRow(by: 1 | -1): void }>();

  onMount(() => {
    workspace.surface = {
      focus: () => trellis?.focus(),
      enter: () => document.querySelector<HTMLTextAreaElement>('[data-testid="cue-text"]')?.focus(),
      stepRow: (by) => trellis?.stepRow(by)
    };
    trellis?.focus();
    return () => (workspace.surface = null);
  });
</script>

<h2 class="unseen">Time</h2>
<Trellis bind:this={trellis} />
