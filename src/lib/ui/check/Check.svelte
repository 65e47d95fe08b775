<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import AsTrimmed from './AsTrimmed.svelte';
  import Figures from './Figures.svelte';
  import Findings from './Findings.svelte';
  import Report from './Report.svelte';
  import SheetEditor from './SheetEditor.svelte';
  import { phrases } from './phrases';

  /** What is not as it should be: found, mended, or let stand. */
  const desk = useTrackDesk();
  const { checks, contrasts } = desk;
  const VIEWS = ['findings', 'figures', 'report', 'sheet'] as const;
  let view = $state<(typeof VIEWS)[number]>('findings');
  let list = $state<{ focus(): void } | undefined>();

  onMount(() => {
    const ends = [contrasts.follow(), checks.follow()];
    desk.surface = { focus: () => list?.focus(), enter: () => void checks.step(1) };
    return () => {
      desk.surface = null;
      for (const end of ends) end();
    };
  });
  $effect(() => {
    const { track } = desk;
    if (contrasts.light !== null) untrack(() => contrasts.measure(track));
  });
  $effect(() => checks.check());
</script>

<div class="check">
  <Tabs
    label={phrases.views.label}
    tabs={VIEWS.map((id) => ({ id, label: phrases.views[id] }))}
    open={view}
    onOpen={(id: typeof view) => (view = id)}
  >
    {#if view === 'findings' && desk.trimming.seen.id !== null}<AsTrimmed />
    {:else if view === 'findings'}<Findings bind:this={list} />
    {:else if view === 'figures'}<Figures />
    {:else if view === 'report'}<Report />
    {:else}<SheetEditor />{/if}
  </Tabs>
</div>

<style>
  .check {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    height: 100%;
    min-height: 0;
    padding: 10px 0 0;
    background: var(--sheet);
  }
  .check :global([role='tablist']) {
    padding: 0 16px;
  }
  .check :global([role='tabpanel']) {
    grid-template-rows: minmax(0, 1fr);
    min-height: 0;
    padding-top: 12px;
    overflow: hidden;
  }
</style>
