<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { hearsLanguage } from '$lib/core/hearing';
  import { messageOf } from '$lib/core/message-of';
  import { formatClock, wholeMs } from '$lib/core/time';
  import { api, type Engine } from '$lib/client/api';
  import { narrationCalls, type Narration } from '$lib/client/narration/calls';
  import { keyOf, listenToNarrationKeys, NARRATION_KEYS, type NarrationAct } from '$lib/client/narration/keys';
  import { listMicrophones, onMicrophones, type Microphone, type Processing } from '$lib/client/narration/microphone';
  import { heldNarrations, Narrating } from '$lib/client/narration/narration.svelte';
  import { preferences } from '$lib/client/preferences.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import Language from '../hear/Language.svelte';
  import Meter from './Meter.svelte';
  import Reader from './Reader.svelte';
  import Unended from './Unended.svelte';
  import Words from './Words.svelte';
  import { phrases } from './phrases';

  const narrating = new Narrating();
  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }).format();
  let title = $state(phrases.form.usualTitle(day));
  let language = $state(preferences.hearing.language);
  let script = $state('');
  let engineId = $state<string | null>(null);
  let engines = $state.raw<readonly Engine[]>([]);
  let microphones = $state.raw<readonly Microphone[]>([]);
  let unended = $state.raw<readonly Narration[]>([]);
  let held = $state.raw<ReadonlySet<string>>(new Set());
  let failure = $state<string | null>(null);

  const hearing = $derived(
    engines.filter((one) => one.available && one.hears && !one.sendsSound && hears(one, language))
  );
  const hears = ({ languages }: Engine, tag: string): boolean => hearsLanguage(languages, tag);
  const ear = $derived(engineId === '' ? null : (hearing.find(({ id }) => id === engineId) ?? hearing[0] ?? null));
  const isSpoken = $derived(narrating.narration !== null);
  const canBegin = $derived(narrating.isOn && title.trim() !== '' && language.trim() !== '');
  const isStopped = $derived(['elsewhere', 'over'].includes(narrating.delivery.state));
  const clock = (ms: number): string => formatClock(wholeMs(Math.max(0, Math.round(ms))));
  /** What is being sent is sent in pieces: less than a second is no delay. */
  const unsentS = $derived(Math.round((narrating.lengthMs - narrating.storedMs) / 1000));
  const told = $derived(narrating.delivery.problem ?? '');

  const fail = (error: unknown): void => void (failure = messageOf(error));
  async function trying(work: () => Promise<unknown>): Promise<void> {
    try {
      failure = null;
      await work();
    } catch (error) {
      fail(error);
    }
  }
  const lookForMicrophones = (): Promise<unknown> =>
    trying(async () => {
      microphones = await listMicrophones();
    });
  const lookForUnended = (): Promise<unknown> =>
    trying(async () => {
      [unended, held] = await Promise.all([narrationCalls.list(), heldNarrations()]);
    });

  async function switchOn(id: string | null = narrating.microphone, processing?: Processing): Promise<void> {
    await narrating.switchOn(id, processing);
    await lookForMicrophones();
  }

  onMount(() => {
    api.engines().then((found) => (engines = found), fail);
    void lookForUnended();
    void lookForMicrophones();
    // Where it is allowed already it comes on by itself.
    navigator.permissions
      .query({ name: 'microphone' })
      .then(({ state }) => (state === 'granted' && !narrating.isOn ? switchOn() : undefined))
      .catch(fail);
    const stops = [onMicrophones(() => void lookForMicrophones()), listenToNarrationKeys(act)];
    return () => {
      for (const stop of stops) stop();
      narrating.close();
    };
  });

  async function record(): Promise<void> {
    if (narrating.state === 'speaking') narrating.pause();
    else if (narrating.state === 'paused') {
      if (!narrating.isOn) await switchOn();
      narrating.goOn();
    } else if (canBegin)
      await trying(() => narrating.begin({ title: title.trim(), language: language.trim(), script }));
  }
  const goOn = (narration: Narration): Promise<void> =>
    trying(async () => {
      ({ title, language, script } = narration);
      if (!narrating.isOn) await switchOn();
      await narrating.begin(narration);
    });
  const endUnended = (narration: Narration): Promise<void> =>
    trying(async () => {
      const other = new Narrating();
      await other.take(narration);
      await finish(other, narration.language);
    });
  const end = (): Promise<void> => trying(() => finish(narrating, language));

  async function finish(one: Narrating, spoken: string): Promise<void> {
    const recording = await one.end();
    const by = engineId === '' ? null : hearing.find((engine) => hears(engine, spoken) && engine.id === ear?.id);
    if (by != null) await api.hear(recording.id, { engine: by.id, language: spoken });
    await goto(`/recordings/${recording.id}/hear`);
  }

  const can = $derived<Record<NarrationAct, boolean>>({
    record: !isStopped && narrating.state !== 'ending' && (isSpoken || canBegin),
    again: isSpoken && narrating.state !== 'ending' && narrating.sentences.some(({ isLeftOut }) => !isLeftOut),
    putBack: isSpoken && narrating.leftOut.length > 0,
    end: isSpoken && !isStopped && narrating.state !== 'ending'
  });
  function act(which: NarrationAct): void {
    if (!can[which]) return;
    if (which === 'record') void record();
    else if (which === 'again') narrating.again();
    else if (which === 'putBack') narrating.putBack();
    else void end();
  }
  const keys = $derived(
    Object.fromEntries(Object.keys(NARRATION_KEYS).map((one) => [one, keyOf(one as NarrationAct)])) as Record<
      NarrationAct,
      string
    >
  );
</script>

<svelte:head><title>{phrases.page} · Vine Tap</title></svelte:head>

<TopBar title={phrases.page} subtitle={isSpoken ? title : phrases.about} />

<main data-state={narrating.state}>
  <div class="surface" class:scripted={!isSpoken || narrating.script.length > 0}>
    {#if isSpoken}
      <Words sentences={narrating.sentences} pending={narrating.pending.length} />
      {#if narrating.script.length > 0}
        <div class="beside">
          <Reader
            script={narrating.script}
            at={narrating.scriptAt}
            onReadOn={(word: number) => narrating.readOnAt(word)}
          />
        </div>
      {/if}
    {:else}
      <div class="form">
        {#if unended.length > 0}
          <Unended
            narrations={unended}
            {held}
            onGoOn={(one: Narration) => void goOn(one)}
            onEnd={(one: Narration) => void endUnended(one)}
          />
        {/if}
        <section aria-label={phrases.microphone.label}>
          <h2>{phrases.microphone.label}</h2>
          {#if narrating.problem !== null}
            <p class="failed" role="alert">{phrases.microphone.problems[narrating.problem]}</p>
          {/if}
          {#if narrating.isOn}
            <label
              ><span class="unseen">{phrases.microphone.label}</span>
              <select
                class="field wide"
                value={narrating.microphone}
                onchange={({ currentTarget }) => void switchOn(currentTarget.value)}
              >
                {#each microphones as { id, name } (id)}<option value={id}>{name}</option>{/each}
              </select></label
            >
          {:else}
            <button class="act filled" onclick={() => void switchOn(null)}
              >{narrating.problem === null ? phrases.microphone.switchOn : phrases.microphone.switchOnAgain}</button
            >
          {/if}
          <fieldset>
            <legend>{phrases.microphone.processing}</legend>
            {#each ['echoCancellation', 'noiseSuppression', 'autoGainControl'] as const as one (one)}
              <label
                ><input
                  type="checkbox"
                  checked={narrating.processing[one]}
                  onchange={({ currentTarget }) => {
                    const processing = { ...narrating.processing, [one]: currentTarget.checked };
                    if (narrating.isOn) void switchOn(narrating.microphone, processing);
                    else narrating.processing = processing;
                  }}
                />
                {phrases.microphone[one]}</label
              >
            {/each}
            <p class="soft">{phrases.microphone.processingAbout}</p>
          </fieldset>
        </section>
        <section class="about" aria-label={phrases.form.about}>
          <h2>{phrases.form.about}</h2>
          <label class="title">{phrases.form.title} <input class="field" maxlength="200" bind:value={title} /></label>
          <Language {engines} bind:language />
          <label
            >{phrases.form.heardBy}
            <select
              class="field"
              value={ear?.id ?? ''}
              onchange={({ currentTarget }) => (engineId = currentTarget.value)}
            >
              {#each hearing as { id, name } (id)}<option value={id}>{name}</option>{/each}
              <option value="">{phrases.form.nobody}</option>
            </select></label
          >
        </section>
      </div>
      <label class="beside script"
        ><span>{phrases.form.script} <span class="soft">{phrases.form.scriptAbout}</span></span>
        <textarea class="field" maxlength="1000000" bind:value={script}></textarea></label
      >
    {/if}
  </div>

  <div class="told" aria-live="polite">
    {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
    {#if isSpoken && narrating.problem !== null}
      <p class="failed" role="alert">
        {phrases.microphone.problems[narrating.problem]}
        <select
          class="field"
          aria-label={phrases.microphone.label}
          onchange={({ currentTarget }) => void switchOn(currentTarget.value === '' ? null : currentTarget.value)}
        >
          <option value="">{phrases.microphone.usual}</option>
          {#each microphones as { id, name } (id)}<option value={id}>{name}</option>{/each}
        </select>
        <button class="act" onclick={() => void switchOn(null)}>{phrases.microphone.switchOnAgain}</button>
      </p>
    {/if}
    {#if narrating.delivery.state !== 'fine'}
      <p class="failed" role="alert">{phrases.delivery[narrating.delivery.state] || told}</p>
    {/if}
    {#if !narrating.isKept}<p class="warned">{phrases.notKept}</p>{/if}
    {#if isSpoken && !narrating.isHeard}<p class="soft">{phrases.notHeard}</p>{/if}
  </div>

  <footer>
    <button
      class="act filled record"
      disabled={!can.record}
      title={phrases.acts.keyed(phrases.acts.record[narrating.state], keys.record)}
      onclick={() => act('record')}
      ><span class="dot {narrating.state}" aria-hidden="true"></span>{phrases.acts.record[narrating.state]}</button
    >
    <button
      class="act"
      disabled={!can.again}
      title={phrases.acts.keyed(phrases.acts.againAbout, keys.again)}
      onclick={() => act('again')}>{phrases.acts.again}</button
    >
    <button
      class="act quiet"
      disabled={!can.putBack}
      title={phrases.acts.keyed(phrases.acts.putBackAbout, keys.putBack)}
      onclick={() => act('putBack')}>{phrases.acts.putBack}</button
    >
    <button
      class="act"
      disabled={!can.end}
      title={phrases.acts.keyed(phrases.acts.endAbout, keys.end)}
      onclick={() => act('end')}>{phrases.acts.end}</button
    >
    <Meter level={narrating.level} trouble={narrating.trouble} />
    <p class="time">
      <strong data-testid="narrated" data-ms={narrating.lengthMs}>{clock(narrating.lengthMs)}</strong>
      <span class="soft" role="status" data-testid="narration-state">{phrases.state[narrating.state]}</span>
      {#if unsentS >= 1}<span class="soft">{phrases.unsent(unsentS)}</span>
      {:else if narrating.roomMs !== null}<span class="soft">{phrases.room(narrating.roomMs)}</span>{/if}
    </p>
    <span class="soft keys">{phrases.keyHints(keys)}</span>
  </footer>
</main>

<style>
  main {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto auto;
    height: calc(100vh - 52px);
    min-width: 1000px;
    padding: 16px max(24px, calc((100vw - 1240px) / 2)) 0;
    background: var(--sheet);
  }
  .surface {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 32px;
    min-height: 0;
  }
  .surface.scripted {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .form {
    display: flex;
    flex-direction: column;
    gap: 22px;
    overflow-y: auto;
    padding: 2px;
  }
  .form section,
  fieldset {
    display: flex;
    flex-direction: column;
    align-items: start;
    gap: 10px;
  }
  fieldset {
    gap: 4px;
    font-size: 14px;
  }
  h2 {
    font-size: 16px;
    font-weight: 700;
  }
  .form .about {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px 18px;
    align-items: start;
  }
  .about h2,
  .about .title {
    grid-column: 1 / -1;
  }
  .about > :global(label) {
    display: grid;
    gap: 4px;
  }
  .about > :global(label .field) {
    width: 100%;
  }
  .wide {
    width: 340px;
    max-width: 100%;
  }
  .beside {
    display: grid;
    min-height: 0;
    border-left: 1px solid var(--rule);
    padding-left: 24px;
  }
  .beside.script {
    grid-template-rows: auto minmax(0, 1fr);
    gap: 8px;
    padding-bottom: 16px;
  }
  textarea {
    resize: none;
    font-size: 17px;
    line-height: 1.5;
    padding: 10px 12px;
  }
  .told p {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
    padding: 6px 0;
  }
  .failed {
    color: var(--clay);
  }
  .warned {
    color: var(--straw);
  }
  footer {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px 14px;
    padding: 12px 0;
    border-top: 1px solid var(--rule);
  }
  .record {
    display: flex;
    align-items: center;
    gap: 8px;
    min-width: 108px;
    justify-content: center;
  }
  .dot {
    width: 12px;
    height: 12px;
    border-radius: 50%;
    background: currentColor;
  }
  .dot.speaking {
    border-radius: 2px;
    width: 11px;
    height: 11px;
  }
  .time {
    display: flex;
    align-items: baseline;
    gap: 10px;
    margin-left: auto;
  }
  .time strong {
    font-size: 22px;
    font-variant-numeric: tabular-nums;
  }
  .keys {
    flex-basis: 100%;
    font-size: 13px;
  }
</style>
