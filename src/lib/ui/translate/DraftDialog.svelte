<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { mayDraft } from '$lib/core/translating';
  import type { TextQuote } from '$lib/client/translate/calls';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { formatMoney } from '../frame/money';
  import EngineChoice from './EngineChoice.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.draft;
  let dialog = $state<HTMLDialogElement | undefined>();
  let engine = $state('');
  let quote = $state.raw<TextQuote | null>(null);
  let failure = $state<string | null>(null);
  const count = $derived(translating.rows.filter((row) => mayDraft(row) || row.cues.length === 0).length);

  onMount(() => dialog?.showModal());

  async function draft(): Promise<void> {
    try {
      await translating.draft(engine, quote?.costCents);
      dialog?.close();
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<dialog
  class="small-dialog"
  bind:this={dialog}
  aria-labelledby="draft-title"
  onclose={() => {
    translating.isDraftOpen = false;
    desk.surface?.focus();
  }}
>
  <h2 id="draft-title">{words.title}</h2>
  <div class="about">
    {#if count === 0}<p>{words.nothing}</p>{:else if engine !== ''}<p>{words.about(count)}</p>{/if}
    <EngineChoice
      priced={{ trackId: desk.session.trackId, isWhole: false }}
      from={translating.source?.language ?? ''}
      to={desk.track.language}
      bind:engine
      bind:quote
    />
    {#if failure !== null}<p class="failure" role="alert">{failure}</p>{/if}
  </div>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void draft();
    }}
  >
    <button class="act filled" disabled={engine === '' || count === 0}
      >{quote === null ? words.draft : words.draftFor(formatMoney(quote.costCents, quote.currency))}</button
    >
    <button type="button" class="act" onclick={() => dialog?.close()}>{words.close}</button>
  </form>
</dialog>

<style>
  .about {
    display: grid;
    gap: 10px;
  }
  form {
    display: flex;
    gap: 10px;
    margin-top: 16px;
  }
  .failure {
    color: var(--clay);
  }
</style>
