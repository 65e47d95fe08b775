<script lang="ts">
  import { onMount } from 'svelte';
  import { wholeMs } from '$lib/core/time';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import NumberField from '../time/NumberField.svelte';
  import Review from './Review.svelte';
  import { phrases } from './phrases';

  /** Pauses by values that are seen on the text at once, taken together or one by one. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { trimming } = desk;
  const words = phrases.pauses;
  const options = $derived(trimming.offers.pauseOptions);
  let putInMs = $state(500);
  onMount(() => {
    if (trimming.offers.going === null) trimming.offers.tryPauses();
    return () => {
      if (trimming.offers.going === null) trimming.offers.tried = null;
    };
  });
  // The sound may come later than the place.
  $effect(() => {
    if (desk.sound !== null && trimming.offers.going === null) trimming.offers.tryPauses();
  });
</script>

<section>
  <NumberField
    label={words.threshold}
    unit={words.db}
    value={options.thresholdDb}
    least={6}
    most={60}
    onChange={(thresholdDb: number) => trimming.offers.setPauseOptions({ thresholdDb })}
  />
  <NumberField
    label={words.least}
    unit={words.ms}
    value={options.leastMs}
    least={100}
    most={10_000}
    step={50}
    onChange={(leastMs: number) => trimming.offers.setPauseOptions({ leastMs })}
  />
  <NumberField
    label={words.margin}
    unit={words.ms}
    value={options.marginMs}
    least={0}
    most={2000}
    step={10}
    onChange={(marginMs: number) => trimming.offers.setPauseOptions({ marginMs })}
  />
  <NumberField
    label={words.shorten}
    unit={words.ms}
    value={options.shortenToMs}
    least={0}
    most={5000}
    step={50}
    onChange={(shortenToMs: number) => trimming.offers.setPauseOptions({ shortenToMs })}
  />
  {#if trimming.offers.going === null && trimming.offers.tried !== null}
    <p data-testid="pauses-found" role="status">
      {words.found(trimming.offers.tried.length, trimming.offers.wouldSaveMs)}
    </p>
    <p class="acts">
      <button class="act filled" disabled={trimming.offers.tried.length === 0} onclick={() => onCommand('takeTrial')}
        >{words.take} <kbd>{surfaceKey('takeTrial')}</kbd></button
      >
      <button
        class="act"
        disabled={trimming.offers.tried.length === 0}
        onclick={() => trimming.offers.goThrough('pauses')}>{words.through}</button
      >
    </p>
  {:else if trimming.offers.going === 'pauses'}
    <Review {onCommand} />
  {:else}
    <p class="acts">
      <button class="act" onclick={() => trimming.offers.tryPauses()}>{phrases.hesitations.show}</button>
    </p>
  {/if}
</section>
<section>
  <h3>{trimming.chosenPause === null ? words.own : words.ofChosen}</h3>
  {#if trimming.chosenPause !== null}
    {@const { id, lengthMs } = trimming.chosenPause}
    <NumberField
      label={words.length}
      unit={words.ms}
      value={lengthMs}
      least={20}
      most={60_000}
      step={100}
      onChange={(ms: number) => void trimming.edit({ type: 'setPause', pieceId: id, lengthMs: wholeMs(ms) })}
    />
  {:else}
    <NumberField
      label={words.length}
      unit={words.ms}
      value={putInMs}
      least={20}
      most={60_000}
      step={100}
      onChange={(ms: number) => (putInMs = ms)}
    />
    <p class="acts">
      <button class="act" onclick={() => trimming.putInPause(putInMs)}
        >{words.putIn}
        {#if putInMs === 500}<kbd>{surfaceKey('putInPause')}</kbd>{/if}</button
      >
    </p>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 9px;
  }
  section + section {
    padding-top: 14px;
    border-top: 1px solid var(--rule);
  }
  h3 {
    font-weight: 700;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
</style>
