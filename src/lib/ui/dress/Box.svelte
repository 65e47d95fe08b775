<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ChoiceField from './ChoiceField.svelte';
  import ColorField from './ColorField.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const { dressing } = useTrackDesk();
  const look = $derived(dressing.look);
  const own = $derived(dressing.own);
</script>

<ChoiceField
  label={phrases.box.kind}
  values={phrases.box.kinds}
  value={look.box.kind}
  isOwn={own.has('box.kind')}
  onSet={(kind: typeof look.box.kind) => dressing.set({ box: { kind } })}
  onLetGo={() => dressing.letGo({ box: { kind: null } })}
/>
{#if look.box.kind !== 'none'}
  <ColorField
    label={phrases.box.color}
    value={look.box.color}
    isOwn={own.has('box.color')}
    onTry={(color: string) => dressing.try({ box: { color } })}
    onSet={(color: string) => dressing.set({ box: { color } })}
    onLetGo={() => dressing.letGo({ box: { color: null } })}
  />
  <ValueField
    label={phrases.box.opacity}
    unit={phrases.place.percent}
    value={Math.round(look.box.opacity * 100)}
    least={0}
    most={100}
    step={1}
    isOwn={own.has('box.opacity')}
    onTry={(percent: number) => dressing.try({ box: { opacity: percent / 100 } })}
    onSet={(percent: number) => dressing.set({ box: { opacity: percent / 100 } })}
    onLetGo={() => dressing.letGo({ box: { opacity: null } })}
  />
  <ValueField
    label={phrases.box.padding}
    unit={phrases.letters.em}
    value={look.box.paddingEm}
    least={0}
    most={2}
    step={0.05}
    isOwn={own.has('box.paddingEm')}
    onTry={(paddingEm: number) => dressing.try({ box: { paddingEm } })}
    onSet={(paddingEm: number) => dressing.set({ box: { paddingEm } })}
    onLetGo={() => dressing.letGo({ box: { paddingEm: null } })}
  />
  <ValueField
    label={phrases.box.rounding}
    unit={phrases.letters.em}
    value={look.box.roundingEm}
    least={0}
    most={2}
    step={0.05}
    isOwn={own.has('box.roundingEm')}
    onTry={(roundingEm: number) => dressing.try({ box: { roundingEm } })}
    onSet={(roundingEm: number) => dressing.set({ box: { roundingEm } })}
    onLetGo={() => dressing.letGo({ box: { roundingEm: null } })}
  />
{/if}
