<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  /** What becomes of the captions: those that deserve a look. */
  const desk = useTrackDesk();
  const { trimming } = desk;
  const words = phrases.captions;
  let at = $state(-1);
  /** Those that are wholly gone, as was meant, need no look. */
  const remarks = $derived(trimming.becomes?.remarks().filter(({ kind }) => kind !== 'left out') ?? []);

  function choose(index: number): void {
    at = index;
    const remark = remarks[index];
    const recordedMs = remark === undefined ? null : (trimming.map?.recordedAt(remark.startMs) ?? null);
    if (recordedMs !== null) desk.player.seek(recordedMs);
  }
</script>

{#if trimming.becomes !== null && trimming.trim !== null}
  <p>{words.counts(desk.track.cues.length, trimming.becomes.track.cues.length)}</p>
  <p class="soft">{remarks.length === 0 ? words.none : words.about(trimming.trim.title)}</p>
  {#if remarks.length > 0}
    <LongList
      label={words.list}
      count={remarks.length}
      {at}
      startMsOf={(index: number) => remarks[index]!.startMs}
      onChoose={choose}
    >
      {#snippet text(index: number)}
        <strong>{words.kinds[remarks[index]!.kind]}</strong>
        {remarks[index]!.text}
      {/snippet}
    </LongList>
  {/if}
{/if}
