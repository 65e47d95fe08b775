<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { EASE_DEFAULTS, easeCues, type EaseOptions } from '$lib/core/timing';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import NumberField from './NumberField.svelte';
  import { chosenScope, scopeName } from './scope';

  const workspace = useWorkspace();
  let options = $state.raw<EaseOptions>(EASE_DEFAULTS);

  const eased = $derived(
    easeCues(
      workspace.track,
      {
        speech: workspace.sound?.speech.regions ?? [],
        shotsMs: workspace.shotsMs,
        durationMs: workspace.recording.durationMs
      },
      options,
      chosenScope(workspace)
    )
  );
  // What would come of it stands on the trellis at once.
  $effect(() => {
    const { times } = eased;
    untrack(() => workspace.trial.try(times.length === 0 ? [] : [{ type: 'timeCues', times }]));
  });
  onMount(() => () => workspace.trial.leave());

  const set = (change: Partial<EaseOptions>): void => void (options = { ...options, ...change });
  const plural = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;
</script>

<section aria-label="Ease">
  <p class="soft">Gives time to what reads too fast, from the free time around it, in {scopeName(workspace)}.</p>
  <div class="numbers">
    <NumberField
      label="End later by at most"
      unit="ms"
      value={options.endLaterMs}
      least={0}
      most={10_000}
      step={100}
      onChange={(endLaterMs: number) => set({ endLaterMs })}
    />
    <NumberField
      label="Start earlier by at most"
      unit="ms"
      value={options.startEarlierMs}
      least={0}
      most={5000}
      step={50}
      onChange={(startEarlierMs: number) => set({ startEarlierMs })}
    />
    <NumberField
      label="Close gaps shorter than"
      unit="ms"
      value={options.closeGapsBelowMs}
      least={0}
      most={3000}
      step={50}
      onChange={(closeGapsBelowMs: number) => set({ closeGapsBelowMs })}
    />
    <NumberField
      label="To speech within"
      unit="ms"
      value={options.speechReachMs}
      least={0}
      most={1000}
      step={20}
      onChange={(speechReachMs: number) => set({ speechReachMs })}
    />
    {#if workspace.shotsMs.length > 0}
      <NumberField
        label="To shot changes within"
        unit="ms"
        value={options.shotReachMs}
        least={0}
        most={1000}
        step={20}
        onChange={(shotReachMs: number) => set({ shotReachMs })}
      />
    {/if}
  </div>
  <table>
    <tbody>
      <tr><th>too fast</th><td class="mono">{eased.tooFastBefore} → <strong>{eased.tooFastAfter}</strong></td></tr>
      <tr><th>gaps closed</th><td class="mono">{eased.closed}</td></tr>
      <tr><th>edges at speech or a shot</th><td class="mono">{eased.snapped}</td></tr>
    </tbody>
  </table>
  <div class="acts">
    <button class="act filled" disabled={workspace.trial.track === null} onclick={() => workspace.trial.take()}
      >{eased.times.length === 0 ? 'Nothing to ease' : `Time ${plural(eased.times.length, 'cue')} so`}</button
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
