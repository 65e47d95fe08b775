<script lang="ts">
  import { untrack } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import type { Paper } from '$lib/core/paper';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import FileLink from '../frame/FileLink.svelte';
  import PaperView from './PaperView.svelte';
  import { phrases } from './phrases';

  /** The report of the check as it is now, to be looked at and saved. */
  const desk = useTrackDesk();
  const { checks, session } = desk;
  const words = phrases.report;
  /** After the last change of what it tells. */
  const REST_MS = 400;
  let paper = $state.raw<Paper | null>(null);
  let failure = $state<string | null>(null);
  let asked = 0;

  async function load(): Promise<void> {
    const own = ++asked;
    try {
      await Promise.all([session.saved(), checks.kept()]);
      const made = await api.report(session.trackId);
      if (own === asked) [paper, failure] = [made, null];
    } catch (error) {
      if (own === asked) failure = messageOf(error);
    }
  }
  $effect(() => {
    void [desk.track, checks.accepted];
    const rest = setTimeout(() => void load(), untrack(() => paper) === null ? 0 : REST_MS);
    return () => clearTimeout(rest);
  });
</script>

<div class="report" data-testid="report" aria-busy={paper === null && failure === null}>
  <header>
    <FileLink href={api.reportUrl(session.trackId, 'pdf')} before={() => checks.kept()}>{words.pdf}</FileLink>
    <FileLink href={api.reportUrl(session.trackId, 'html')} before={() => checks.kept()} isQuiet>{words.html}</FileLink>
    <span class="soft">{words.about}</span>
  </header>
  {#if failure !== null}
    <p class="failed" role="alert">
      {failure} <button class="act" onclick={() => void load()}>{words.again}</button>
    </p>
  {/if}
  <!-- It scrolls. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="paper" role="region" aria-label={words.label} tabindex="0">
    {#if paper !== null}<PaperView {paper} />
    {:else if failure === null}<p class="soft" role="status">{words.loading}</p>{/if}
  </div>
</div>

<style>
  .report {
    display: grid;
    grid-template-rows: auto auto minmax(0, 1fr);
    height: 100%;
    min-height: 0;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 12px;
    padding: 0 16px 10px;
  }
  header .soft {
    font-size: 14px;
  }
  .failed {
    padding: 0 16px 10px;
  }
  .paper {
    grid-row: 3;
    padding: 14px 16px 30px;
    border-top: 1px solid var(--rule);
    overflow-y: auto;
    outline-offset: -2px;
  }
</style>
