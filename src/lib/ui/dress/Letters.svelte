<script lang="ts">
  import { findFace } from '$lib/core/faces';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ChoiceField from './ChoiceField.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const { dressing } = useTrackDesk();
  const look = $derived(dressing.look);
  const own = $derived(dressing.own);
  const ours = $derived(fonts.faces.filter(({ character }) => character === 'our own'));
  const shipped = $derived(fonts.faces.filter(({ character }) => character !== 'our own' && character !== 'stand-in'));
  const face = $derived(findFace(fonts.faces, look.face));
  const lacking = $derived(dressing.lacking);
</script>

<label class="row" class:own={own.has('face')}>
  <span>{phrases.letters.face}</span>
  <select class="field" value={face.id} onchange={({ currentTarget }) => dressing.set({ face: currentTarget.value })}>
    {#each shipped as one (one.id)}<option value={one.id}>{one.name}, {one.character}</option>{/each}
    {#if ours.length > 0}
      <optgroup label={phrases.letters.ourFaces}>
        {#each ours as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </optgroup>
    {/if}
  </select>
</label>
{#each lacking as { letters, face: of, drawnIn } (`${of} ${drawnIn}`)}
  <p class="soft note" role="status">{phrases.letters.lacking(letters, of, drawnIn)}</p>
{/each}
<div class="pair">
  <label class:own={own.has('weight')}>
    <span>{phrases.letters.weight}</span>
    <select
      class="field"
      value={face.weights.includes(look.weight) ? look.weight : ''}
      onchange={({ currentTarget }) => dressing.set({ weight: Number(currentTarget.value) })}
    >
      {#if !face.weights.includes(look.weight)}<option value="">{look.weight}</option>{/if}
      {#each face.weights as weight (weight)}<option value={weight}>{weight}</option>{/each}
    </select>
  </label>
  <label class="check" class:own={own.has('italic')}>
    <input
      type="checkbox"
      checked={look.italic}
      onchange={({ currentTarget }) => dressing.set({ italic: currentTarget.checked })}
    />
    {phrases.letters.italic}
  </label>
  <label class="check" class:own={own.has('capitals')}>
    <input
      type="checkbox"
      checked={look.capitals === 'all'}
      onchange={({ currentTarget }) => dressing.set({ capitals: currentTarget.checked ? 'all' : 'as written' })}
    />
    {phrases.letters.capitals}
  </label>
</div>
{#if look.italic && face.italicWeights.length === 0}<p class="soft note">{phrases.letters.synthetic}</p>{/if}
<ValueField
  label={phrases.letters.size}
  unit={phrases.letters.sizeUnit}
  value={look.sizePercent}
  least={1}
  most={30}
  step={0.5}
  isOwn={own.has('sizePercent')}
  onTry={(sizePercent: number) => dressing.try({ sizePercent })}
  onSet={(sizePercent: number) => dressing.set({ sizePercent })}
  onLetGo={() => dressing.letGo({ sizePercent: null })}
/>
{#if dressing.isShrunk}<p class="soft note" role="status">{phrases.letters.shrunk}</p>{/if}
<ValueField
  label={phrases.letters.letterSpacing}
  unit={phrases.letters.em}
  value={look.letterSpacingEm}
  least={-0.1}
  most={0.5}
  step={0.01}
  isOwn={own.has('letterSpacingEm')}
  onTry={(letterSpacingEm: number) => dressing.try({ letterSpacingEm })}
  onSet={(letterSpacingEm: number) => dressing.set({ letterSpacingEm })}
  onLetGo={() => dressing.letGo({ letterSpacingEm: null })}
/>
<ValueField
  label={phrases.letters.lineSpacing}
  unit={phrases.letters.times}
  value={look.lineSpacing}
  least={0.8}
  most={3}
  step={0.05}
  isOwn={own.has('lineSpacing')}
  onTry={(lineSpacing: number) => dressing.try({ lineSpacing })}
  onSet={(lineSpacing: number) => dressing.set({ lineSpacing })}
  onLetGo={() => dressing.letGo({ lineSpacing: null })}
/>
<ChoiceField
  label={phrases.letters.align}
  values={phrases.letters.aligns}
  value={look.align}
  isOwn={own.has('align')}
  onSet={(align: typeof look.align) => dressing.set({ align })}
  onLetGo={() => dressing.letGo({ align: null })}
/>

<style>
  .row,
  .pair label:not(.check) {
    display: grid;
    gap: 2px;
    font-size: 14px;
  }
  .pair {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 8px 16px;
    font-size: 14px;
  }
  .check {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 34px;
  }
  .own {
    color: var(--leaf);
    font-weight: 600;
  }
  select {
    font-weight: 400;
  }
  .note {
    font-size: 13px;
  }
</style>
