<script lang="ts">
  import { isSameLanguage } from '$lib/core/track';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Engine, type Job, type Recording } from '$lib/client/api';
  import Background from '../hear/Background.svelte';
  import Language from '../hear/Language.svelte';

  interface Props {
    /** Those that were not heard yet and are not being heard. */
    recordings: readonly Recording[];
    /** Hearings that wait or run. */
    jobs: readonly Job[];
    onJob: (job: Job) => void;
  }
  let { recordings, jobs, onJob }: Props = $props();
  let engines = $state.raw<readonly Engine[] | null>(null);
  let isOpen = $state(false);
  let language = $state('en');
  let voices = $state<'one' | 'auto' | '2'>('one');
  let background = $state<'none' | 'music' | 'noise'>('none');
  let failure = $state<string | null>(null);
  /** Only engines of this machine: a queue must not spend money without being asked. */
  const local = $derived((engines ?? []).filter((engine) => !engine.sendsSound && engine.fits));
  const engine = $derived(local.find((one) => one.languages.some((tag) => isSameLanguage(tag, language))) ?? null);

  const fail = (error: unknown): void => void (failure = messageOf(error));

  async function open(): Promise<void> {
    isOpen = !isOpen;
    engines ??= await api.engines().catch((error: unknown) => (fail(error), null));
  }
  async function hearAll(): Promise<void> {
    failure = null;
    try {
      for (const recording of recordings)
        onJob(
          await api.hear(recording.id, {
            engine: engine!.id,
            language,
            background,
            ...(voices !== 'one' && { speakers: voices === 'auto' ? voices : Number(voices) })
          })
        );
      isOpen = false;
    } catch (error) {
      fail(error);
    }
  }
  function cancelAll(): void {
    for (const job of [...jobs].reverse()) api.cancelJob(job.id).catch(fail);
  }
</script>

{#if recordings.length > 1 || jobs.length > 0}
  <section aria-label="Hear several">
    <p>
      {#if recordings.length > 1}
        <button class="act" aria-expanded={isOpen} onclick={() => void open()}
          >Hear the {recordings.length} that are not heard yet…</button
        >
      {/if}
      {#if jobs.length > 0}
        <span
          >{jobs.length} {jobs.length === 1 ? 'is' : 'are'} being heard or {jobs.length === 1 ? 'waits' : 'wait'}</span
        >
        <button class="act quiet" onclick={cancelAll}>Cancel {jobs.length === 1 ? 'it' : 'them all'}</button>
      {/if}
    </p>
    {#if isOpen}
      <div class="form">
        <Language engines={local} bind:language />
        <label
          >Speakers
          <select class="field" bind:value={voices}>
            <option value="one">One, or not told apart</option>
            <option value="auto">Find out in each</option>
            <option value="2">2</option>
          </select></label
        >
        <Background bind:background />
        <button class="act filled" disabled={engine?.available !== true} onclick={() => void hearAll()}
          >Hear them, one after the other</button
        >
        {#if engines !== null && engine === null}<span class="soft">Nothing on this machine hears this language.</span
          >{/if}
      </div>
    {/if}
    {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  </section>
{/if}

<style>
  section {
    padding: 14px 22px 0;
  }
  p,
  .form {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px 18px;
  }
  .form {
    margin-top: 12px;
  }
  .failed {
    color: var(--clay);
  }
</style>
