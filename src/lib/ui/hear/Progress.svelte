<script lang="ts">
  import { goto } from '$app/navigation';
  import { untrack } from 'svelte';
  import { api, type Job } from '$lib/client/api';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { messageOf } from '$lib/core/message-of';
  import { phrases } from './phrases';

  interface Props {
    job: Job;
    onFailure: (message: string) => void;
  }
  let { job, onFailure }: Props = $props();
  let words = $state.raw<readonly { readonly text: string; readonly startMs: number }[]>([]);
  /** Whether a track can be begun that grows while it is corrected. */
  let canBegin = $state(false);
  let place = $state<HTMLElement | undefined>();
  /** One request at a time; one more afterwards if there was news meanwhile. */
  let isAsking = false;
  /** Engines work side by side: what is this near to the last word may still come. */
  const UNSETTLED_MS = 90_000;

  const left = $derived.by(() => {
    const ms = job.leftMs;
    if (ms === undefined) return '';
    if (ms < 60_000) return phrases.progress.lessThanAMinute;
    const minutes = Math.round(ms / 60_000);
    return minutes === 1 ? phrases.progress.aMinuteLeft : phrases.progress.minutesLeft(minutes);
  });

  $effect(() => {
    if (job.kind !== 'hear' || job.stage !== 'hearing' || isAsking) return;
    void job.progress;
    isAsking = true;
    const fromMs = Math.max(0, (untrack(() => words).at(-1)?.startMs ?? 0) - UNSETTLED_MS);
    api
      .wordsSoFar(job.id, fromMs)
      .then(({ words: found, canBegin: can }) => {
        canBegin = can;
        // Words are replaced from the first chunk that is sent again.
        const knownMs = found[0]?.startMs ?? Number.POSITIVE_INFINITY;
        words = [...words.filter((word) => word.startMs < knownMs), ...found];
      }, fail)
      .finally(() => (isAsking = false));
  });
  $effect(() => {
    void words;
    if (place) place.scrollTop = place.scrollHeight;
  });

  const fail = (error: unknown): void => onFailure(messageOf(error));
  async function begin(): Promise<void> {
    try {
      const trackId = await api.beginTrack(job.id);
      await goto(`/recordings/${job.recordingId}/tracks/${trackId}/read`);
    } catch (error) {
      fail(error);
    }
  }
  const end = (keep: boolean): void => void api.cancelJob(job.id, { keep }).catch(fail);
</script>

<div class="work">
  <ProgressBar label={job.stage} progress={job.progress} />
  <p role="status">
    <strong>{job.state === 'queued' ? phrases.progress.waitingItsTurn : job.stage}</strong>
    <span class="mono">{Math.round(job.progress * 100)} %</span>
    <span class="soft">{left}</span>
  </p>
</div>
{#if words.length > 0}
  <!-- Long enough to be scrolled by the keyboard. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="words" bind:this={place} tabindex="0" role="region" aria-label={phrases.progress.heardSoFar}>
    {words.map((word) => word.text).join(' ')} <span class="soft">…</span>
  </div>
{/if}
{#if job.kind === 'hear'}
  <p class="ends">
    {#if words.length > 0 && canBegin}<button class="act filled" onclick={() => void begin()}
        >{phrases.progress.correctWhatIsThere}</button
      >{/if}
    {#if words.length > 0}<button class="act" onclick={() => end(true)}>{phrases.progress.stopAndKeepWhat}</button>{/if}
    <button class="act" onclick={() => end(false)}>{phrases.progress.cancel}</button>
    <span class="soft">{phrases.progress.itGoesOnWhile}</span>
  </p>
{:else}
  <p class="ends"><button class="act" onclick={() => end(false)}>{phrases.progress.cancel}</button></p>
{/if}

<style>
  .work {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    align-items: center;
    gap: 18px;
    width: 100%;
  }
  .work p,
  .ends {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 12px;
  }
  .work strong::first-letter {
    text-transform: uppercase;
  }
  .words {
    width: 100%;
    max-height: 210px;
    overflow-y: auto;
    padding: 12px 18px;
    background: var(--paper);
    font-size: 17px;
    line-height: 29px;
  }
</style>
