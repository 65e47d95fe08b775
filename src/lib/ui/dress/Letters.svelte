<script lang="ts">
  import { findFace, type Face } from '$lib/core/faces';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ChoiceField from './ChoiceField.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { dressing } = desk;
  let input = $state<HTMLInputElement | undefined>();
  let removed = $state.raw<Face | null>(null);
  const look = $derived(dressing.look);
  const own = $derived(dressing.own);
  const ours = $derived(fonts.faces.filter(({ character }) => character === 'our own'));
  const shipped = $derived(fonts.faces.filter(({ character }) => character !== 'our own' && character !== 'stand-in'));
  const face = $derived(findFace(fonts.faces, look.face));
  const lacking = $derived(dressing.lacking);

  async function act(work: () => Promise<string>): Promise<void> {
    try {
      const said = await work();
      await fonts.loadFaces();
      desk.say(said);
    } catch (error) {
      desk.say(messageOf(error));
    }
  }

  const bringIn = (): Promise<void> =>
    act(async () => {
      const file = input!.files![0]!;
      input!.value = '';
      const brought = await api.bringInFace(file);
      await fonts.loadFaces();
      dressing.set({ face: brought.face.id, weight: brought.face.weights[0]! });
      return phrases.letters.broughtIn(brought.face.name, brought.embedding);
    });

  const remove = (one: Face): Promise<void> =>
    act(async () => {
      await api.removeFace(one.id);
      removed = one;
      return phrases.letters.removedFace(one.name);
    });

  const bringBack = (one: Face): Promise<void> =>
    act(async () => {
      await api.restoreFace(one.id);
      removed = null;
      return phrases.letters.backAgain(one.name);
    });
</script>

<label class="row" class:own={own.has('face')}>
  <span>{phrases.letters.face}</span>
  <select
    class="field"
    aria-label={phrases.letters.face}
    value={face.id}
    onchange={({ currentTarget }) => dressing.set({ face: currentTarget.value })}
  >
    {#each shipped as one (one.id)}<option value={one.id}>{one.name}, {one.character}</option>{/each}
    {#if ours.length > 0}
      <optgroup label={phrases.letters.ourFaces}>
        {#each ours as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </optgroup>
    {/if}
  </select>
</label>
<p class="faces">
  <button class="act quiet" onclick={() => input?.click()}>{phrases.letters.bringIn}</button>
  {#if face.character === 'our own'}
    <button class="act quiet" onclick={() => void remove(face)}>{phrases.letters.removeFace(face.name)}</button>
  {/if}
  <input
    type="file"
    class="unseen"
    tabindex="-1"
    accept=".ttf,.otf,.woff,.woff2"
    aria-label={phrases.letters.bringIn}
    bind:this={input}
    onchange={() => void bringIn()}
  />
</p>
{#if removed !== null}
  {@const gone = removed}
  <p class="note faces">
    <span class="soft">{phrases.letters.removedFace(gone.name)}</span>
    <button class="act quiet" onclick={() => void bringBack(gone)}>{phrases.letters.bringBackFace}</button>
  </p>
{/if}
{#if face.id !== look.face}<p class="soft note" role="status">{phrases.letters.goneFace}</p>{/if}
{#each lacking as { letters, face: of, drawnIn } (`${of} ${drawnIn}`)}
  <p class="soft note" role="status">{phrases.letters.lacking(letters, of, drawnIn)}</p>
{/each}
<div class="pair">
  <label class:own={own.has('weight')}>
    <span>{phrases.letters.weight}</span>
    <select
      class="field"
      aria-label={phrases.letters.weight}
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
  .faces {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    margin: -4px 0 0 -11px;
  }
  .faces .act {
    min-height: 28px;
    font-size: 14px;
  }
  .note {
    font-size: 13px;
  }
</style>
