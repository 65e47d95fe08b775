<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import CueCard from '../cue-card/CueCard.svelte';
  import Sounds from '../frame/Sounds.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Cut from './Cut.svelte';
  import Ease from './Ease.svelte';
  import RulesForm from './RulesForm.svelte';
  import Sync from './Sync.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();

  const TABS = [
    { id: 'cue', label: phrases.panel.cue },
    { id: 'rules', label: phrases.panel.rules },
    { id: 'ease', label: phrases.panel.ease },
    { id: 'sync', label: phrases.panel.sync }
  ] as const;
  const CUT = { id: 'cut', label: phrases.panel.cut } as const;
  const tabs = $derived(desk.remarks.list.length > 0 ? [...TABS, CUT] : TABS);
  const open = $derived(tabs.some((tab) => tab.id === preferences.timePanel) ? preferences.timePanel : 'cue');

  function show(id: typeof open): void {
    desk.trial.leave();
    preferences.set({ timePanel: id });
  }
</script>

<Tabs label={phrases.panel.besideTheTrellis} {tabs} {open} onOpen={show}>
  {#if open === 'cue'}
    <CueCard {onCommand} />
    <Sounds />
  {:else if open === 'rules'}
    <RulesForm />
  {:else if open === 'ease'}
    <Ease />
  {:else if open === 'cut'}
    <Cut />
  {:else}
    <Sync />
  {/if}
</Tabs>
