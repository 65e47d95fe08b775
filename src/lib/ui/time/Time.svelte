<script lang="ts">
  import { onMount, tick } from 'svelte';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import AsTrimmed from './AsTrimmed.svelte';
  import CueTable from './CueTable.svelte';
  import Trellis from './Trellis.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let trellis = $state<{ focus(): void; stepRow(by: 1 | -1): void; letGo(): boolean }>();
  let table = $state<{ focus(): void }>();
  const view = $derived(preferences.timeView);

  function stepRow(by: 1 | -1): void {
    if (trellis !== undefined) trellis.stepRow(by);
    else desk.stepCue(by);
  }

  /** Into the text of the cue, whatever stands beside the trellis. */
  async function enter(): Promise<void> {
    preferences.set({ timePanel: 'cue' });
    await tick();
    document.querySelector<HTMLTextAreaElement>('[data-testid="cue-text"]')?.focus();
  }

  onMount(() => {
    desk.surface = {
      focus: () => (trellis ?? table)?.focus(),
      enter: () => void enter(),
      stepRow,
      letGo: () => trellis?.letGo() ?? false
    };
    (trellis ?? table)?.focus();
    return () => {
      desk.trial.leave();
      desk.surface = null;
    };
  });
</script>

<h2 class="unseen">{phrases.time.time}</h2>
{#if desk.trimming.seen.id !== null}
  <AsTrimmed bind:this={table} />
{:else}
  <div class="views {view}">
    {#if view !== 'table'}<Trellis bind:this={trellis} />{/if}
    {#if view !== 'trellis'}<CueTable bind:this={table} />{/if}
  </div>
{/if}

<style>
  .views {
    display: grid;
    height: 100%;
    min-height: 0;
  }
  .views > :global(*) {
    min-height: 0;
  }
  .views.both {
    grid-template-rows: minmax(0, 3fr) minmax(0, 2fr);
  }
  .views.both > :global(:last-child) {
    border-top: 1px solid var(--rule);
  }
</style>
