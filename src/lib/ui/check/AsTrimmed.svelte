<script lang="ts">
  import { messageOf } from '$lib/core/message-of';
  import { api, type TrimmedFinding } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  /** What is not as it should be of a trim; it is mended as it was recorded, or by another cut. */
  const desk = useTrackDesk();
  const { trimming, session } = desk;
  const words = phrases.asTrimmed;
  let findings = $state.raw<readonly TrimmedFinding[] | null>(null);
  let failure = $state<string | null>(null);
  let at = $state(-1);

  $effect(() => {
    const seenAs = trimming.seen.id;
    void desk.track;
    if (seenAs === null) return;
    let isOld = false;
    findings = null;
    failure = null;
    session
      .saved()
      .then(() => api.trimmedFindings(session.trackId, seenAs))
      .then(
        (found) => {
          if (!isOld) findings = found;
        },
        (error: unknown) => {
          if (!isOld) failure = messageOf(error);
        }
      );
    return () => void (isOld = true);
  });
  function choose(index: number): void {
    at = index;
    const cue = desk.track.cues.find(({ id }) => id === findings?.[index]?.cueId);
    desk.chooseCue(cue, { seek: true });
  }
</script>

<div class="trimmed">
  {#if failure !== null}<p role="alert">{failure}</p>
  {:else if findings === null}<p class="soft" role="status">{phrases.list.checking}</p>
  {:else}
    <p role="status">{phrases.list.left(findings.length)} <span class="soft">{words.about}</span></p>
    <LongList
      label={phrases.list.label}
      count={findings.length}
      {at}
      isTall
      startMsOf={(index: number) => findings?.[index]?.startMs ?? 0}
      onChoose={choose}
    >
      {#snippet text(index: number)}{findings?.[index]?.message ?? ''}{/snippet}
    </LongList>
  {/if}
</div>

<style>
  .trimmed {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    gap: 10px;
    min-height: 0;
    padding: 0 16px;
  }
</style>
