<script lang="ts">
  import { hearsLanguage } from '$lib/core/hearing';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Engine, type Job } from '$lib/client/api';
  import Background from '../hear/Background.svelte';
  import Language from '../hear/Language.svelte';
  import { phrases } from './phrases';

  interface Props {
    /** Those that were not heard yet and are not being heard, or of these what is chosen. */
    recordingIds: readonly string[];
    areChosen: boolean;
    /** Hearings that wait or run. */
    jobs: readonly Job[];
    onJob: (job: Job) => void;
  }
  let { recordingIds, areChosen, jobs, onJob }: Props = $props();
  let engines = $state.raw<readonly Engine[] | null>(null);
  let isOpen = $state(false);
  let language = $state('en');
  let voices = $state<'one' | 'auto' | '2'>('one');
  let background = $state<'none' | 'music' | 'noise'>('none');
  let failure = $state<string | null>(null);
  /** Only engines of this machine: a queue must not spend money without being asked. */
  const local = $derived(
    (engines ?? []).filter(({ sendsSound, hears, available }) => !sendsSound && hears && available)
  );
  const able = $derived(local.filter((one) => hearsLanguage(one.languages, language)));
  let engineId = $state('');
  const engine = $derived(able.find(({ id }) => id === engineId) ?? able[0] ?? null);

  const isOffered = $derived(recordingIds.length > (areChosen ? 0 : 1));

  const fail = (error: unknown): void => void (failure = messageOf(error));

  async function open(): Promise<void> {
    isOpen = !isOpen;
    engines ??= await api.engines().catch((error: unknown) => (fail(error), null));
  }
  async function hearAll(): Promise<void> {
    failure = null;
    try {
      for (const id of recordingIds)
        onJob(
          await api.hear(id, {
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

{#if isOffered || jobs.length > 0}
  <section aria-label={phrases.hearAll.label}>
    <p>
      {#if isOffered}
        <button class="act" aria-expanded={isOpen} onclick={() => void open()}
          >{areChosen
            ? phrases.hearAll.openChosen(recordingIds.length)
            : phrases.hearAll.open(recordingIds.length)}</button
        >
      {/if}
      {#if jobs.length > 0}
        <span>{phrases.hearAll.going(jobs.length)}</span>
        <button class="act quiet" onclick={cancelAll}>{phrases.hearAll.cancel(jobs.length)}</button>
      {/if}
    </p>
    {#if isOpen}
      <div class="form">
        <Language engines={local} bind:language />
        {#if able.length > 1}
          <label
            >{phrases.hearAll.ear}
            <select class="field" value={engine?.id} onchange={({ currentTarget }) => (engineId = currentTarget.value)}>
              {#each able as { id, name } (id)}<option value={id}>{name}</option>{/each}
            </select></label
          >
        {/if}
        <label
          >{phrases.hearAll.speakers}
          <select class="field" bind:value={voices}>
            <option value="one">{phrases.hearAll.oneSpeaker}</option>
            <option value="auto">{phrases.hearAll.findOut}</option>
            <option value="2">2</option>
          </select></label
        >
        <Background bind:background />
        <button class="act filled" disabled={engine === null} onclick={() => void hearAll()}
          >{phrases.hearAll.start}</button
        >
        {#if engines !== null && engine === null}<span class="soft">{phrases.hearAll.nothing}</span>{/if}
      </div>
    {/if}
    {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  </section>
{/if}

<style>
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
