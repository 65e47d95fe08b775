<script lang="ts">
  import AudioLines from '@lucide/svelte/icons/audio-lines';
  import Film from '@lucide/svelte/icons/film';
  import Pencil from '@lucide/svelte/icons/pencil';
  import Scissors from '@lucide/svelte/icons/scissors';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import { formatClock } from '$lib/core/time';
  import type { Job, ListedRecording } from '$lib/client/api';
  import { firstPlaceOf } from '$lib/client/places';
  import { trackLabels } from '$lib/client/track-labels';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { leftOnTrack, phrases } from './phrases';

  interface Props {
    recording: ListedRecording;
    /** What is done with it now. */
    job: Job | undefined;
    project: string | undefined;
    isChosen: boolean;
    isRenaming: boolean;
    onToggle: () => void;
    onRename: (isRenaming: boolean) => void;
    onTitle: (title: string) => void;
    onCut: () => void;
    onBin: () => void;
    onGoOn: () => void;
  }
  let props: Props = $props();
  const { recording, job } = $derived(props);

  const MOST_TRACKS = 2;
  const labels = $derived(trackLabels(recording));
  const isWorking = $derived(job?.state === 'running');
  const left = $derived.by(() => {
    if (recording.canGoOn === true) return recording.failure ?? phrases.left.stopped;
    if (recording.state === 'failed') return phrases.left.failed(recording.failure);
    if (job?.state === 'queued') return phrases.left.waiting;
    if (job?.state === 'running')
      return `${job.stage.replace(/^./, (letter) => letter.toUpperCase())}, ${Math.round(job.progress * 100)} %`;
    if (recording.state === 'preparing') return phrases.left.preparing;
    if (recording.tracks.length === 0)
      return recording.cutOf === undefined ? phrases.left.unheard : phrases.left.noTrack;
    // The one that most is left to do on says it for all.
    const { tracks } = recording;
    return leftOnTrack(
      tracks.find(({ handedOver }) => handedOver?.hasChanged === true) ??
        tracks.find(({ state, handedOver }) => state === 'draft' && handedOver === undefined) ??
        tracks.find(({ handedOver }) => handedOver === undefined) ??
        tracks[0]!
    );
  });

  function rename(input: HTMLInputElement, isKept: boolean): void {
    if (!props.isRenaming) return;
    props.onRename(false);
    const title = input.value.trim();
    if (isKept && title !== '' && title !== recording.title) props.onTitle(title);
  }
  const focusAll = (input: HTMLInputElement): void => {
    input.focus();
    input.select();
  };
</script>

<span role="gridcell">
  <input
    type="checkbox"
    tabindex="-1"
    checked={props.isChosen}
    aria-label={phrases.row.choose(recording.title)}
    onclick={() => props.onToggle()}
  />
</span>
<span role="gridcell" class="kind" title={recording.media.hasVideo ? phrases.row.picture : phrases.row.sound}>
  {#if recording.media.hasVideo}<Film size={18} />{:else}<AudioLines size={18} />{/if}
  <span class="unseen">{recording.media.hasVideo ? phrases.row.picture : phrases.row.sound}</span>
</span>
<div role="gridcell" class="what">
  {#if props.isRenaming}
    <input
      class="field"
      maxlength="200"
      aria-label={phrases.row.name(recording.title)}
      value={recording.title}
      {@attach focusAll}
      onkeydown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') rename(event.currentTarget, true);
        else if (event.key === 'Escape') rename(event.currentTarget, false);
      }}
      onblur={(event) => rename(event.currentTarget, true)}
    />
  {:else if recording.state === 'failed'}
    <strong title={recording.title}>{recording.title}</strong>
  {:else}
    <a href={firstPlaceOf(recording)} tabindex="-1" title={recording.title}>{recording.title}</a>
  {/if}
  <p class="soft" class:bad={recording.state === 'failed'} title={left}>
    {left}{#if recording.cutOf !== undefined}<span>{phrases.row.cutOf(recording.cutOfTitle)}</span
      >{/if}{#if props.project !== undefined}<span class="project">{props.project}</span
      >{/if}{#if recording.spoken !== undefined}<q>{recording.spoken}</q>{/if}
  </p>
  {#if isWorking && job !== undefined}<ProgressBar label={job.stage} progress={job.progress} />{/if}
</div>
<div role="gridcell" class="tracks">
  {#each recording.tracks.slice(0, MOST_TRACKS) as track (track.id)}
    <a href="/recordings/{recording.id}/tracks/{track.id}/read" tabindex="-1" title={labels.get(track.id)}
      >{labels.get(track.id)}</a
    >
  {/each}
  {#if recording.tracks.length > MOST_TRACKS}
    <a href="/recordings/{recording.id}/hear" tabindex="-1">{phrases.row.more(recording.tracks.length - MOST_TRACKS)}</a
    >
  {/if}
</div>
<span role="gridcell" class="mono soft length">{formatClock(recording.durationMs)}</span>
<span role="gridcell" class="next">
  {#if recording.canGoOn === true}
    <button class="act filled" tabindex="-1" onclick={() => props.onGoOn()}>{phrases.row.goOn}</button>
  {:else if recording.state !== 'failed' && recording.tracks.length === 0}
    <a class="act filled" href="/recordings/{recording.id}/hear" tabindex="-1"
      >{recording.cutOf === undefined ? phrases.row.hear : phrases.row.carry}</a
    >
  {:else if recording.tracks.length > 0}
    <a class="act" href="/recordings/{recording.id}/hear" tabindex="-1">{phrases.row.again}</a>
  {/if}
</span>
<span role="gridcell" class="signs">
  {#if recording.state === 'ready' && recording.tracks.length > 0}
    <button
      class="icon"
      tabindex="-1"
      onclick={() => props.onCut()}
      aria-label={phrases.row.cut(recording.title)}
      title={phrases.row.cutHint}><Scissors size={16} /></button
    >
  {/if}
  <button
    class="icon"
    tabindex="-1"
    onclick={() => props.onRename(true)}
    aria-label={phrases.row.rename(recording.title)}
    title={phrases.row.renameHint}><Pencil size={16} /></button
  >
  <button
    class="icon"
    tabindex="-1"
    onclick={() => props.onBin()}
    aria-label={phrases.row.bin(recording.title)}
    title={phrases.row.binHint}><Trash2 size={16} /></button
  >
</span>

<style>
  .kind {
    color: var(--leaf);
  }
  .what {
    min-width: 0;
  }
  .what > a,
  .what > strong {
    display: block;
    overflow: hidden;
    color: var(--ink);
    font-size: 16px;
    font-weight: 700;
    text-decoration: none;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .what > a:hover,
  .tracks a:hover {
    color: var(--leaf);
    text-decoration: underline;
  }
  .what p {
    overflow: hidden;
    font-size: 14px;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .what p > :global(* + *),
  .what p > span,
  .what p > q {
    margin-left: 12px;
  }
  .project {
    padding: 0 7px;
    border-radius: 2px 7px 2px 7px;
    background: var(--pale-leaf);
    color: var(--ink);
  }
  q {
    font-style: italic;
  }
  .what .field {
    width: 100%;
    min-height: 28px;
    padding-block: 1px;
  }
  .bad {
    color: var(--clay);
  }
  .what :global(.track-bar) {
    max-width: 340px;
    margin-top: 4px;
  }
  .tracks {
    display: grid;
    min-width: 0;
    line-height: 1.25;
  }
  .tracks a {
    overflow: hidden;
    color: var(--leaf);
    font-size: 14px;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .length {
    text-align: right;
  }
  .next {
    justify-self: end;
  }
  .signs {
    display: flex;
    justify-content: flex-end;
  }
</style>
