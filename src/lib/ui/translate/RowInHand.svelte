<script lang="ts">
  import type { Row } from '$lib/core/translating';
  import { isFromTheRight } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import CueText from './CueText.svelte';
  import RowMark from './RowMark.svelte';
  import { phrases } from './phrases';

  interface Props {
    row: Row;
    /** Its place among all rows. */
    at: number;
    /** Goes into the text of the row that is in hand now. */
    onNext: () => void;
  }
  let { row, at, onNext }: Props = $props();
  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.rows;
  const sourceLanguage = $derived(translating.source?.language ?? '');
  const startMs = $derived((row.sourceCues[0] ?? row.cues[0]!).startMs);
  let first = $state<{ focus(): void } | undefined>();

  export function focus(): void {
    first?.focus();
  }
  /** The row is done as it stands, and the next one that is not comes into the hand. */
  function goOn(): void {
    const isLast = !translating.stepOpen(1);
    if (isLast) desk.surface?.focus();
    else onNext();
  }
</script>

<div class="in-hand">
  <span class="mono soft place">{at + 1}<br />{desk.on.showTime(startMs)}</span>
  <div class="source" lang={sourceLanguage} dir={isFromTheRight(sourceLanguage) ? 'rtl' : 'ltr'}>
    <p>{row.source}</p>
    {#if row.changedFrom !== null}
      <p class="was" role="status">
        <span>{words.was}</span>
        <del>{row.changedFrom}</del>
        <button class="act" onclick={() => translating.takeAsIs()}>{words.asItIs}</button>
      </p>
    {/if}
  </div>
  <div class="target">
    {#each row.cues as cue, part (cue.id)}
      {#if part === 0}<CueText {row} {cue} {at} {part} onDone={goOn} bind:this={first} />
      {:else}<CueText {row} {cue} {at} {part} onDone={goOn} />{/if}
    {:else}
      <button class="act" onclick={onNext}>{words.begin}</button>
    {/each}
  </div>
  <span class="marks"><RowMark state={row.state} /></span>
</div>

<style>
  .in-hand {
    display: grid;
    grid-template-columns: 62px minmax(0, 1fr) minmax(0, 1fr) 104px;
    gap: 16px;
    padding: 10px 16px 12px 14px;
  }
  .place {
    font-size: 12px;
    line-height: 17px;
    text-align: right;
  }
  .source {
    padding-top: 5px;
    font-size: 16px;
    line-height: 23px;
    overflow-wrap: anywhere;
  }
  .target {
    display: grid;
    gap: 8px;
  }
  .was {
    display: grid;
    gap: 4px;
    justify-items: start;
    margin-top: 8px;
    padding: 8px 10px;
    border-radius: 4px;
    background: color-mix(in oklab, var(--straw), var(--sheet) 82%);
    font-size: 14px;
    line-height: 19px;
  }
  .marks {
    padding-top: 6px;
    font-size: 13px;
  }
</style>
