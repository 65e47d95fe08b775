<script lang="ts">
  import { onMount } from 'svelte';
  import { HESITATION_KINDS, type HesitationKind } from '$lib/core/trims';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Review from './Review.svelte';
  import { phrases } from './phrases';

  /** Hesitations, repeats and phrases that say nothing: all at once or one by one; and any word there is. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const { trimming } = useTrackDesk();
  const words = phrases.hesitations;
  let kinds = $state.raw<ReadonlySet<HesitationKind>>(new Set(['sound', 'repeat', 'false start']));
  let word = $state('');
  let said = $state('');

  const show = (): void => {
    said = '';
    trimming.offers.tryHesitations(kinds);
  };
  onMount(() => {
    if (trimming.offers.going === null) show();
    return () => {
      if (trimming.offers.going === null) trimming.offers.tried = null;
    };
  });
  function toggle(kind: HesitationKind): void {
    kinds = new Set(kinds.has(kind) ? [...kinds].filter((one) => one !== kind) : [...kinds, kind]);
    show();
  }
  const countOf = (kind: HesitationKind): number =>
    trimming.offers.hesitations.filter((one) => one.kind === kind).length;
</script>

<section>
  {#each HESITATION_KINDS as kind (kind)}
    <label class="kind">
      <input type="checkbox" checked={kinds.has(kind)} onchange={() => toggle(kind)} />
      <span>{words.kinds[kind]}</span>
      <span class="mono soft">{words.count(countOf(kind))}</span>
    </label>
  {/each}
  {#if trimming.offers.going === 'hesitations' || trimming.offers.going === 'words'}
    <Review {onCommand} />
  {:else}
    {#if trimming.offers.tried !== null}
      <p role="status" data-testid="hesitations-found">
        {said !== '' ? said : words.found(trimming.offers.tried.length, trimming.offers.wouldSaveMs)}
      </p>
    {/if}
    <p class="acts">
      {#if trimming.offers.tried === null}
        <button class="act" onclick={show}>{words.show}</button>
      {:else}
        <button class="act filled" disabled={trimming.offers.tried.length === 0} onclick={() => onCommand('takeTrial')}
          >{words.take} <kbd>{surfaceKey('takeTrial')}</kbd></button
        >
      {/if}
      <button class="act" onclick={() => trimming.offers.goThrough(said === '' ? 'hesitations' : 'words')}
        >{words.through}</button
      >
    </p>
    {#if trimming.offers.shapes.length > 0}<p class="soft">{words.shapes(trimming.offers.shapes.length)}</p>{/if}
  {/if}
</section>
<section>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (word.trim() !== '') said = words.foundWords(trimming.offers.tryWords(word));
    }}
  >
    <label for="trim-word">{words.word}</label>
    <input id="trim-word" class="field" bind:value={word} maxlength="100" autocomplete="off" />
    <button class="act">{words.find}</button>
  </form>
  <label for="trim-phrases">{words.list} <span class="soft">{words.listHint}</span></label>
  <textarea
    id="trim-phrases"
    class="field"
    rows="4"
    value={preferences.fillerPhrases.join('\n')}
    onchange={(event) => {
      const lines = event.currentTarget.value.split('\n').map((line) => line.trim().slice(0, 100));
      preferences.set({ fillerPhrases: lines.filter((line) => line !== '').slice(0, 200) });
      show();
    }}></textarea>
</section>

<style>
  section {
    display: grid;
    gap: 9px;
  }
  section + section {
    padding-top: 14px;
    border-top: 1px solid var(--rule);
  }
  .kind {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 9px;
    align-items: center;
  }
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 6px 8px;
  }
  form label {
    grid-column: 1 / -1;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
</style>
