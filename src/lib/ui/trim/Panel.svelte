<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Captions from './Captions.svelte';
  import Hesitations from './Hesitations.svelte';
  import Joins from './Joins.svelte';
  import Pauses from './Pauses.svelte';
  import TakeAway from './TakeAway.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const TABS = (['pauses', 'hesitations', 'joins', 'captions', 'away'] as const).map((id) => ({
    id,
    label: phrases.tabs[id]
  }));
  type Tab = (typeof TABS)[number]['id'];
  const tab = $derived(preferences.trimPanel);
</script>

<div class="tabs">
  <Tabs label={phrases.tabs.label} tabs={TABS} open={tab} onOpen={(id: Tab) => preferences.set({ trimPanel: id })}>
    {#if tab === 'pauses'}<Pauses {onCommand} />
    {:else if tab === 'hesitations'}<Hesitations {onCommand} />
    {:else if tab === 'joins'}<Joins {onCommand} />
    {:else if tab === 'captions'}<Captions />
    {:else}<TakeAway />{/if}
  </Tabs>
</div>

<style>
  .tabs {
    display: grid;
    gap: 16px;
  }
  @media (max-width: 1150px) {
    .tabs > :global([role='tablist'] [role='tab']) {
      padding-inline: 3px;
      font-size: 14px;
    }
  }
</style>
