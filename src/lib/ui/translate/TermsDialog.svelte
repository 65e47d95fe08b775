<script lang="ts">
  import { onMount } from 'svelte';
  import X from '@lucide/svelte/icons/x';
  import { messageOf } from '$lib/core/message-of';
  import { languageName } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.terms;
  let dialog = $state<HTMLDialogElement | undefined>();
  let terms = $state(translating.terms.map((term) => ({ ...term })));
  let failure = $state<string | null>(null);
  onMount(() => {
    if (terms.length === 0) add();
    dialog?.showModal();
  });
  function add(): void {
    terms.push({ source: '', target: '', note: '' });
  }
  async function keep(): Promise<void> {
    try {
      await translating.keepTerms(terms.filter(({ source, target }) => source.trim() !== '' && target.trim() !== ''));
      desk.say(words.kept);
      dialog?.close();
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<dialog
  class="small-dialog wide"
  bind:this={dialog}
  aria-labelledby="terms-title"
  onclose={() => {
    translating.areTermsOpen = false;
    desk.surface?.focus();
  }}
>
  <h2 id="terms-title">{words.title}</h2>
  <p class="soft">
    {words.about(languageName(translating.source?.language ?? ''), languageName(desk.track.language))}
  </p>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <div class="terms">
      <span class="soft">{words.source}</span><span class="soft">{words.target}</span><span class="soft"
        >{words.note}</span
      ><span></span>
      {#each terms as term, at (at)}
        <input class="field" aria-label={words.source} maxlength="200" bind:value={term.source} />
        <input
          class="field"
          aria-label={words.target}
          maxlength="200"
          lang={desk.track.language}
          bind:value={term.target}
        />
        <input class="field" aria-label={words.note} maxlength="1000" bind:value={term.note} />
        <button type="button" class="icon" aria-label={words.remove(term.source)} onclick={() => terms.splice(at, 1)}
          ><X size={16} /></button
        >
      {/each}
    </div>
    {#if failure !== null}<p class="failure" role="alert">{failure}</p>{/if}
    <p class="acts">
      <button class="act filled">{words.keep}</button>
      <button type="button" class="act" onclick={add}>{words.add}</button>
      <button type="button" class="act quiet" onclick={() => dialog?.close()}>{words.close}</button>
    </p>
  </form>
</dialog>

<style>
  .wide {
    width: min(760px, 92vw);
    max-height: 80vh;
    overflow-y: auto;
  }
  form {
    display: grid;
    gap: 16px;
    margin-top: 12px;
  }
  .terms {
    display: grid;
    grid-template-columns: 1fr 1fr 1.2fr 28px;
    gap: 8px 10px;
    align-items: center;
  }
  .acts {
    display: flex;
    gap: 10px;
  }
  .failure {
    color: var(--clay);
  }
</style>
