<script lang="ts">
  import { isFromTheRight, joinLines, plainLines, readingSpeed } from '$lib/core/track';
  import { termsNotUsed, type Row } from '$lib/core/translating';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import RowMark from './RowMark.svelte';
  import { phrases } from './phrases';

  interface Props {
    row: Row;
    /** Its place among all rows. */
    at: number;
    onChoose: () => void;
  }
  let { row, at, onChoose }: Props = $props();
  const desk = useTrackDesk();
  const { translating } = desk;
  const sourceLanguage = $derived(translating.source?.language ?? '');
  const lines = $derived(row.cues.map((cue) => joinLines(plainLines(desk.track, cue))));
  const speed = $derived(Math.max(0, ...row.cues.map((cue) => readingSpeed(desk.track, cue))));
  const isFast = $derived(speed > desk.track.rules.maxCharsPerSecond);
  const missed = $derived(termsNotUsed(row.source, row.target, translating.terms));
  const startMs = $derived((row.sourceCues[0] ?? row.cues[0]!).startMs);
</script>

<!-- The keys of the surface choose rows as well. -->
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
<div class="view" onclick={onChoose} ondblclick={() => desk.surface?.enter()}>
  <span class="mono soft place">{at + 1}<br />{desk.on.showTime(startMs)}</span>
  <p class="source" lang={sourceLanguage} dir={isFromTheRight(sourceLanguage) ? 'rtl' : 'ltr'}>{row.source}</p>
  <div class="target" lang={desk.track.language} dir={isFromTheRight(desk.track.language) ? 'rtl' : 'ltr'}>
    {#each lines as line, part (part)}<p>{line}</p>{/each}
  </div>
  <span class="marks">
    <RowMark state={row.state} />
    {#if row.changedFrom !== null}<span class="straw">{phrases.filters.changed}</span>{/if}
    {#if missed.length > 0}<span class="straw">{phrases.filters.terms}</span>{/if}
    {#if row.target !== ''}<span class="mono" class:over={isFast}>{Math.round(speed)}{isFast ? '!' : ''}</span>{/if}
  </span>
</div>

<style>
  .view {
    display: grid;
    grid-template-columns: 62px minmax(0, 1fr) minmax(0, 1fr) 104px;
    gap: 16px;
    min-height: 61px;
    padding: 9px 16px 9px 14px;
    cursor: pointer;
  }
  .view:hover {
    background: color-mix(in oklab, var(--pale-leaf), var(--sheet) 55%);
  }
  .place {
    font-size: 12px;
    line-height: 17px;
    text-align: right;
  }
  .source,
  .target {
    font-size: 15px;
    line-height: 21px;
    overflow-wrap: anywhere;
  }
  .source {
    color: var(--soft-ink);
  }
  .marks {
    display: flex;
    flex-direction: column;
    gap: 2px;
    font-size: 13px;
    line-height: 17px;
  }
  .straw {
    color: var(--straw);
  }
  .over {
    color: var(--clay);
    font-weight: 700;
  }
</style>
