<script lang="ts">
  import { onMount } from 'svelte';
  import { checkCues } from '$lib/core/checks';
  import { messageOf } from '$lib/core/message-of';
  import { charsPerSecond, SHIPPED_RULE_SETS, wordsPerMinute, type Rules, type RuleSet } from '$lib/core/track';
  import { KeptField } from '$lib/client/kept-text.svelte';
  import { api } from '$lib/client/api';
  import { CueBreaker } from '$lib/client/breaking';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import NumberField from './NumberField.svelte';
  import { chosenScope, scopeName } from './scope';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session } = desk;
  let own = $state.raw<readonly RuleSet[]>([]);
  const name = new KeptField('name of a house');
  /** What is being set, before it is used. */
  let rules = $state.raw<Rules>(desk.track.rules);
  let told = $state('');
  const breaker = new CueBreaker();

  onMount(() => {
    api.ruleSets().then(
      (sets) => (own = sets),
      (error: unknown) => (told = phrases.rulesForm.setsUnread(messageOf(error)))
    );
    return () => {
      breaker.close();
      desk.trial.leave();
    };
  });

  const same = (one: Rules, other: Rules): boolean => JSON.stringify(one) === JSON.stringify(other);
  const known = $derived([...SHIPPED_RULE_SETS, ...own]);
  const setName = $derived(known.find((set) => same(set.rules, rules))?.name ?? '');
  const isUsed = $derived(same(rules, desk.track.rules));
  const frameMs = $derived(desk.recording.media.frameRate === undefined ? null : 1000 / desk.recording.media.frameRate);

  const set = (change: Partial<Rules>): void => {
    rules = { ...rules, ...change };
    if (desk.trial.track !== null) void breakAnew();
  };

  async function breakAnew(): Promise<void> {
    const before = session.track;
    const cues = await breaker.break(before, rules, chosenScope(desk));
    if (cues === null) return;
    if (session.track !== before) return void (told = phrases.rulesForm.theTrackHasChanged);
    desk.trial.try([{ type: 'setCues', cues, rules }]);
    const tried = desk.trial.track;
    if (tried === null) return void (told = phrases.rulesForm.theTrackCannotBe);
    const old = new Set(before.cues.map((cue) => `${cue.wordIds.join()} ${cue.lineStarts.join()}`));
    const changed = cues.filter((cue) => !old.has(`${cue.wordIds.join()} ${cue.lineStarts.join()}`)).length;
    const { durationMs } = desk.recording;
    // By these rules alone, whatever numbers the track's sheet has of its own.
    const broken = (at: typeof before): number =>
      new Set(checkCues({ ...at, rules, sheet: {} }, durationMs).map((one) => one.cueId)).size;
    told = phrases.rulesForm.tried({
      ...{ before: before.cues.length, after: tried.cues.length, changed },
      ...{ broken: broken(tried), brokenBefore: broken(before) }
    });
  }

  function use(): void {
    if (desk.edit([{ type: 'setRules', rules }])) told = phrases.rulesForm.used;
  }

  async function save(sets: readonly RuleSet[], said: string): Promise<void> {
    try {
      own = await api.saveRuleSets(sets);
      told = said;
    } catch (error) {
      told = messageOf(error);
    }
  }

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const title = name.text.trim();
    if (title === '') return;
    name.text = '';
    void save([...own.filter((one) => one.name !== title), { name: title, rules }], phrases.rulesForm.kept(title));
  }
</script>

<section aria-label={phrases.rulesForm.rules}>
  <label class="set"
    ><span>{phrases.rulesForm.set}</span>
    <select
      class="field"
      value={setName}
      onchange={(event) => {
        const found = known.find((one) => one.name === event.currentTarget.value);
        if (found !== undefined) set(found.rules);
      }}
    >
      {#if setName === ''}<option value="">{phrases.rulesForm.numbersOfItsOwn}</option>{/if}
      {#each known as one (one.name)}<option value={one.name}>{one.name}</option>{/each}
    </select>
    {#if own.some((one) => one.name === setName)}
      <button
        class="act quiet"
        onclick={() =>
          save(
            own.filter((one) => one.name !== setName),
            phrases.rulesForm.removed(setName)
          )}>{phrases.rulesForm.remove}</button
      >
    {/if}
  </label>
  <div class="numbers">
    <NumberField
      label={phrases.rulesForm.lines}
      value={rules.maxLines}
      least={1}
      most={5}
      onChange={(maxLines: number) => set({ maxLines })}
    />
    <NumberField
      label={phrases.rulesForm.charactersPerLine}
      value={rules.maxCharsPerLine}
      least={1}
      most={200}
      onChange={(maxCharsPerLine: number) => set({ maxCharsPerLine })}
    />
    <NumberField
      label={phrases.rulesForm.readingSpeedCharactersPer}
      value={rules.maxCharsPerSecond}
      least={1}
      most={100}
      onChange={(maxCharsPerSecond: number) => set({ maxCharsPerSecond })}
    />
    <NumberField
      label={phrases.rulesForm.orWordsPerMinute}
      value={wordsPerMinute(rules.maxCharsPerSecond)}
      least={10}
      most={1000}
      step={5}
      onChange={(words: number) => set({ maxCharsPerSecond: charsPerSecond(words) })}
    />
    <NumberField
      label={phrases.rulesForm.minimumDuration}
      unit="s"
      value={rules.minDurationMs / 1000}
      least={0.1}
      most={60}
      step={0.1}
      onChange={(seconds: number) => set({ minDurationMs: Math.round(seconds * 1000) })}
    />
    <NumberField
      label={phrases.rulesForm.maximumDuration}
      unit="s"
      value={rules.maxDurationMs / 1000}
      least={0.1}
      most={600}
      step={0.5}
      onChange={(seconds: number) => set({ maxDurationMs: Math.round(seconds * 1000) })}
    />
    <NumberField
      label={phrases.rulesForm.minimumGap}
      unit={phrases.rulesForm.ms}
      value={rules.minGapMs}
      least={0}
      most={5000}
      step={10}
      onChange={(minGapMs: number) => set({ minGapMs: Math.round(minGapMs) })}
    />
    {#if frameMs !== null}
      <NumberField
        label={phrases.rulesForm.orInFrames}
        value={Number((rules.minGapMs / frameMs).toFixed(1))}
        least={0}
        most={120}
        onChange={(frames: number) => set({ minGapMs: Math.ceil(frames * frameMs) })}
      />
    {/if}
    <NumberField
      label={phrases.rulesForm.lingerAfterTheWords}
      unit={phrases.rulesForm.ms}
      value={rules.lingerMs}
      least={0}
      most={10_000}
      step={50}
      onChange={(lingerMs: number) => set({ lingerMs: Math.round(lingerMs) })}
    />
    <label class="choice"
      ><span>{phrases.rulesForm.twoSpeakersInA}</span>
      <select
        class="field"
        value={rules.sharedCues}
        onchange={(event) => set({ sharedCues: event.currentTarget.value as Rules['sharedCues'] })}
      >
        <option value="never">{phrases.rulesForm.never}</option>
        <option value="dash">{phrases.rulesForm.behindDashes}</option>
        <option value="name">{phrases.rulesForm.behindTheirNames}</option>
        <option value="plain">{phrases.rulesForm.withoutASign}</option>
      </select></label
    >
    <label class="check"
      ><input
        type="checkbox"
        checked={rules.oneWordPerCue}
        onchange={(event: Event & { currentTarget: HTMLInputElement }) =>
          set({ oneWordPerCue: event.currentTarget.checked })}
      />
      {phrases.rulesForm.oneWordPerCue}</label
    >
  </div>
  <div class="acts">
    <button class="act" disabled={isUsed} onclick={use}
      >{isUsed ? phrases.rulesForm.theTracksRules : phrases.rulesForm.useForThisTrack}</button
    >
    <button class="act filled" onclick={() => void breakAnew()} data-testid="break-anew"
      >{phrases.rulesForm.tryBreakingAnew}</button
    >
  </div>
  <p class="soft">{phrases.rulesForm.aboutBreaking(scopeName(desk))}</p>
  <form onsubmit={keep}>
    <input
      class="field"
      placeholder={phrases.rulesForm.nameExample}
      aria-label={phrases.rulesForm.saveTheseRulesUnder}
      bind:value={name.text}
    />
    <button class="act" disabled={name.text.trim() === ''}>{phrases.rulesForm.saveRules}</button>
  </form>
  {#if told !== ''}<p role="status">{told}</p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 14px;
    font-size: 14px;
  }
  .set {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
  }
  .numbers {
    display: grid;
    gap: 5px;
  }
  .choice {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 188px;
    gap: 8px;
    align-items: center;
  }
  .choice .field {
    min-height: 30px;
    padding: 2px 6px;
  }
  .acts,
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  form .field {
    flex: 1;
    min-width: 0;
  }
</style>
