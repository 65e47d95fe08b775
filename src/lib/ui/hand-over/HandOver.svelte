<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Bundle from './Bundle.svelte';
  import Files from './Files.svelte';
  import HandedOver from './HandedOver.svelte';
  import Site from './Site.svelte';
  import Video from './Video.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let panel = $state<HTMLElement | undefined>();
  const TABS = [
    { id: 'files', label: phrases.tabs.files },
    { id: 'bundle', label: phrases.tabs.bundle },
    { id: 'video', label: phrases.tabs.video },
    { id: 'site', label: phrases.tabs.site },
    { id: 'handed', label: phrases.tabs.handed }
  ] as const;
  let tab = $state<(typeof TABS)[number]['id']>('files');

  onMount(() => {
    untrack(() => desk.session.flush());
    desk.surface = {
      focus: () => panel?.focus(),
      enter: () => panel?.querySelector<HTMLElement>('[role=tabpanel] button')?.focus()
    };
    panel?.focus();
    return () => (desk.surface = null);
  });
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="surface"
  bind:this={panel}
  tabindex="0"
  role="region"
  aria-label={phrases.handOver.filesToHandOver}
  data-surface
>
  <h2 class="unseen">{phrases.handOver.handOver}</h2>
  <Tabs label={phrases.tabs.label} tabs={TABS} open={tab} onOpen={(id: typeof tab) => (tab = id)}>
    {#if tab === 'files'}<Files />{:else if tab === 'bundle'}<Bundle />{:else if tab === 'video'}<Video
      />{:else if tab === 'site'}<Site />{:else}<HandedOver />{/if}
  </Tabs>
</div>

<style>
  .surface {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    gap: 18px;
    height: 100%;
    padding: 14px 24px 0;
    background: var(--sheet);
    outline: none;
  }
  .surface > :global([role='tabpanel']) {
    align-content: stretch;
    min-height: 0;
    overflow-y: auto;
  }
</style>
