<script lang="ts">
  import Hourglass from '@lucide/svelte/icons/hourglass';
  import Check from '@lucide/svelte/icons/check';
  import X from '@lucide/svelte/icons/x';
  import { onMount } from 'svelte';
  import { api } from '$lib/client/api';
  import { uploads } from '$lib/client/uploads.svelte';
  import { work, type Work } from '$lib/client/work.svelte';
  import ProgressBar from './ProgressBar.svelte';
  import { phrases } from './phrases';

  /** What goes on in the background, on every page: a sign, and behind it what, how far, and where it leads. */
  let isOpen = $state(false);
  onMount(() => {
    // Every page tells by itself that the server does not answer.
    uploads.look().catch((error: unknown) => console.error(error));
    return work.follow();
  });

  const going = $derived(work.unfinished.length + uploads.unfinished.length);
  const ended = $derived(work.list.length - work.unfinished.length);
  const share = $derived.by(() => {
    const shares = [
      ...work.unfinished.map(({ job }) => job.progress),
      ...uploads.unfinished.map((one) => one.progress)
    ];
    return shares.length === 0 ? 1 : shares.reduce((sum, one) => sum + one, 0) / shares.length;
  });
  function stay(event: BeforeUnloadEvent): void {
    if (uploads.unfinished.length > 0) event.preventDefault();
  }
  const hrefOf = ({ job }: Work): string =>
    job.result?.renderId !== undefined
      ? api.renderUrl(job.result.renderId)
      : job.result?.trackId === undefined
        ? `/recordings/${job.recordingId}/hear`
        : `/recordings/${job.recordingId}/tracks/${job.result.trackId}/read`;
</script>

<!-- What is being sent would be lost. -->
<svelte:window onbeforeunload={stay} />
{#if going + ended > 0}
  <div class="background">
    <button
      class="act quiet"
      aria-expanded={isOpen}
      title={going > 0 ? phrases.background.going : phrases.background.ended}
      onclick={() => (isOpen = !isOpen)}
    >
      {#if going > 0}<Hourglass size={15} />
        {going} · <span class="mono">{Math.round(share * 100)} %</span>{:else}<Check size={15} />
        {phrases.background.done}{/if}
    </button>
    {#if isOpen}
      <section class="floating" aria-label={phrases.background.inTheBackground}>
        {#each uploads.unfinished as upload (upload.key)}
          <div class="one">
            <span class="name">{upload.name}</span>
            <ProgressBar label={phrases.background.sending(upload.name)} progress={upload.progress} />
            <span class="soft"
              >{upload.state === 'waiting'
                ? phrases.background.waitingItsTurn
                : phrases.background.sent(Math.round(upload.progress * 100))}</span
            >
            <button class="act quiet" onclick={() => uploads.cancel(upload.key)}>{phrases.background.cancel}</button>
          </div>
        {/each}
        {#each work.list as one (one.job.id)}
          <div class="one">
            <span class="name">{one.title}</span>
            {#if one.job.state === 'queued' || one.job.state === 'running'}
              <ProgressBar label="{one.job.stage}: {one.title}" progress={one.job.progress} />
              <span class="soft"
                >{one.job.state === 'queued'
                  ? phrases.background.waitingItsTurn
                  : `${one.job.stage}, ${Math.round(one.job.progress * 100)} %`}</span
              >
              <a class="act quiet" href={hrefOf(one)} onclick={() => (isOpen = false)}>{phrases.background.goThere}</a>
            {:else}
              <span></span>
              <span class="soft"
                >{one.job.state === 'done'
                  ? phrases.background.done
                  : phrases.background.failed(one.job.error ?? '')}</span
              >
              <span class="ends">
                <a class="act quiet" href={hrefOf(one)} onclick={() => (isOpen = false)}>{phrases.background.goThere}</a
                >
                <button
                  class="act quiet"
                  aria-label={phrases.background.dismissOf(one.title)}
                  title={phrases.background.dismiss}
                  onclick={() => work.dismiss(one.job.id)}><X size={14} /></button
                >
              </span>
            {/if}
          </div>
        {/each}
        <p class="soft unseen" role="status">
          {going > 0 ? phrases.background.goingOn(going) : phrases.background.nothingGoingOn}
        </p>
      </section>
    {/if}
  </div>
{/if}

<style>
  .background {
    position: relative;
  }
  button {
    white-space: nowrap;
  }
  section {
    display: grid;
    gap: 10px;
  }
  .one {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 90px;
    gap: 2px 12px;
    align-items: center;
    font-size: 14px;
  }
  .name {
    overflow: hidden;
    font-weight: 600;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .soft::first-letter {
    text-transform: uppercase;
  }
  .ends {
    display: flex;
  }
</style>
