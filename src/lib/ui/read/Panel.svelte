<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import CueCard from '../cue-card/CueCard.svelte';
  import Sounds from '../frame/Sounds.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Changes from './Changes.svelte';
  import Doubts from './Doubts.svelte';
  import Find from './Find.svelte';
  import Outline from './Outline.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();

  const TABS = [
    { id: 'doubts', label: phrases.panel.doubts },
    { id: 'find', label: phrases.panel.find },
    { id: 'cue', label: phrases.panel.cue },
    { id: 'outline', label: phrases.panel.outline },
    { id: 'changes', label: phrases.panel.changes }
  ] as const;
  const open = $derived(preferences.readPanel);
</script>

<Sounds />
<Tabs
  label={phrases.panel.besideThePage}
  tabs={TABS}
  {open}
  onOpen={(id: typeof open) => preferences.set({ readPanel: id })}
>
  {#if open === 'doubts'}
    <Doubts />
  {:else if open === 'find'}
    <Find />
  {:else if open === 'cue'}
    <CueCard {onCommand} />
  {:else if open === 'outline'}
    <Outline />
  {:else}
    <Changes />
  {/if}
</Tabs>
