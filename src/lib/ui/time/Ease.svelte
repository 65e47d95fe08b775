<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { EASE_DEFAULTS, easeCues, type EaseOptions } from '$lib/core/timing';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import NumberField from './NumberField.svelte';
  import { chosenScope, scopeName } from './scope';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let options = $state.raw<EaseOptions>(EASE_DEFAULTS);

  interface Field {
    readonly label: string;
    readonly key: keyof EaseOptions;
    readonly most: number;
    readonly step: number;
  }
  const FIELDS: readonly Field[] = [
    { label: phrases.ease.endLaterByAt, key: 'endLaterMs', most: 10_000, step: 100 },
    { label: phrases.ease.startEarlierByAt, key: 'startEarlierMs', most: 5000, step: 50 },
    { label: phrases.ease.closeGapsShorterThan, key: 'closeGapsBelowMs', most: 3000, step: 50 },
    { label: phrases.ease.toSpeechWithin, key: 'speechReachMs', most: 1000, step: 20 },
    { label: phrases.ease.toShotChangesWithin, key: 'shotReachMs', most: 1000, step: 20 }
  ];
  const fields = $derived(FIELDS.filter(({ key }) => key !== 'shotReachMs' || desk.on.shotsMs.length > 0));

  const eased = $derived(
    easeCues(
      desk.track,
      {
        speech: desk.sound?.speech.regions ?? [],
        shotsMs: desk.on.shotsMs,
        durationMs: desk.recording.durationMs
      },
      options,
      chosenScope(desk)
    )
  );
  // What would come of it stands on the trellis at once.
  $effect(() => {
    const { times } = eased;
    untrack(() => desk.trial.try(times.length === 0 ? [] : [{ type: 'timeCues', times }]));
  });
  onMount(() => () => desk.trial.leave());
</script>

<section aria-label={phrases.ease.ease}>
  <p class="soft">{phrases.ease.about(scopeName(desk))}</p>
  <div class="numbers">
    {#each fields as { label, key, most, step } (key)}
      <NumberField
        {label}
        unit={phrases.ease.ms}
        value={options[key]}
        least={0}
        {most}
        {step}
        onChange={(value: number) => (options = { ...options, [key]: value })}
      />
    {/each}
  </div>
  <table>
    <tbody>
      <tr
        ><th>{phrases.ease.tooFast}</th><td class="mono"
          >{eased.tooFastBefore} → <strong>{eased.tooFastAfter}</strong></td
        ></tr
      >
      <tr><th>{phrases.ease.gapsClosed}</th><td class="mono">{eased.closed}</td></tr>
      <tr><th>{phrases.ease.edgesAtSpeechOr}</th><td class="mono">{eased.snapped}</td></tr>
    </tbody>
  </table>
  <div class="acts">
    <button class="act filled" disabled={desk.trial.track === null} onclick={() => desk.trial.take()}
      >{eased.times.length === 0 ? phrases.ease.nothingToEase : phrases.ease.applyTo(eased.times.length)}</button
    >
  </div>
</section>

<style>
  section,
  .numbers {
    display: grid;
    gap: 14px;
    font-size: 14px;
  }
  .numbers {
    gap: 5px;
  }
  th {
    padding-right: 16px;
    color: var(--soft-ink);
    font-weight: 400;
    text-align: left;
  }
  td {
    font-size: 15px;
  }
</style>
