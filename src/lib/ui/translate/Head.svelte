<script lang="ts">
  import { languageName } from '$lib/core/track';
  import { ROW_FILTERS, SHOWN } from '$lib/client/translate/translating.svelte';
  import { titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { phrases } from './phrases';

  /** Which languages, how far, what is shown, and what can be done with all rows. */
  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.head;
  const isDrafting = $derived(translating.job?.state === 'queued' || translating.job?.state === 'running');
  const percent = $derived(Math.round((translating.job?.progress ?? 0) * 100));
  const rest = $derived(words.rest(translating.counts.machine, translating.counts.mine, translating.counts.empty));
</script>

<header>
  <div class="line">
    <h2>
      {words.pair(languageName(translating.source?.language ?? ''), languageName(desk.track.language))}
    </h2>
    <p>
      <strong>{words.done(translating.counts.done, translating.rows.length)}</strong>
      {#if rest !== ''}<span class="soft">{rest}</span>{/if}
    </p>
    <span class="acts">
      <button
        class="act"
        title={titleOf('draftRows')}
        disabled={isDrafting}
        onclick={() => (translating.isDraftOpen = true)}>{words.draft}</button
      >
      <button
        class="act"
        title={titleOf('overClipboard')}
        aria-pressed={translating.isClipboardOpen}
        onclick={() => (translating.isClipboardOpen = !translating.isClipboardOpen)}>{words.clipboard}</button
      >
      <button class="act" onclick={() => (translating.areTermsOpen = true)}>{words.terms}</button>
    </span>
  </div>
  <div class="line">
    <label
      ><span class="unseen">{phrases.filters.label}</span>
      <select class="soft" bind:value={translating.filter} data-testid="row-filter">
        {#each ROW_FILTERS as id (id)}<option value={id}>{phrases.filters[id]}</option>{/each}
      </select></label
    >
    <label class="soft"
      >{words.shows}
      <select bind:value={translating.shown} title={titleOf('shownLanguage')}>
        {#each SHOWN as id (id)}<option value={id}>{phrases.shown[id]}</option>{/each}
      </select></label
    >
    {#if translating.changedCount > 0}
      <button class="note" onclick={() => (translating.filter = 'changed')}
        >{words.changed(translating.changedCount)}</button
      >
    {/if}
    {#if translating.offTime.length > 0}
      <button class="note" onclick={() => translating.takeTimes('all')}
        >{words.offTime(translating.offTime.length)}</button
      >
    {/if}
    {#if isDrafting}
      <span class="drafting" role="status">{words.drafting(percent)}</span>
      <span class="bar"><ProgressBar label={words.drafting(percent)} progress={translating.job?.progress ?? 0} /></span>
      <button class="act quiet" onclick={() => translating.cancelDraft()}>{words.cancel}</button>
    {/if}
  </div>
</header>

<style>
  header {
    display: grid;
    gap: 6px;
    padding: 12px 18px 10px;
    border-bottom: 1px solid var(--rule);
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 16px;
    align-items: center;
    min-height: 26px;
    font-size: 14px;
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
  .acts {
    display: flex;
    gap: 8px;
    margin-left: auto;
  }
  select {
    padding: 2px 0;
    border: none;
    background: transparent;
    color: var(--ink);
    cursor: pointer;
  }
  .note {
    color: var(--straw);
    text-decoration: underline;
    text-underline-offset: 3px;
    cursor: pointer;
  }
  .bar {
    width: 120px;
  }
</style>
