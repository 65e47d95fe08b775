<script lang="ts">
  import Copy from '@lucide/svelte/icons/copy';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { messageOf } from '$lib/core/message-of';
  import { ownTrackName } from '$lib/core/formats';
  import type { Command } from '$lib/core/commands';
  import { api, type Recording, type TrackSummary } from '$lib/client/api';
  import { trackLabels } from '$lib/client/track-labels';
  import { phrases } from './phrases';

  /** The tracks of a recording as things that can be named, doubled, put away and brought back. */
  interface Props {
    recording: Recording;
    /** Something of them has changed. */
    onChange: () => void;
    onFailure: (message: string) => void;
  }
  let { recording, onChange, onFailure }: Props = $props();
  const words = phrases.tracks;
  let binned = $state.raw<readonly TrackSummary[]>([]);
  const labels = $derived(trackLabels(recording));
  const binnedLabels = $derived(trackLabels({ ...recording, tracks: binned }));

  $effect(() => {
    api.binnedTracks(recording.id).then(
      (found) => (binned = found),
      (error: unknown) => onFailure(messageOf(error))
    );
  });

  async function doing(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      onFailure(words.failed(messageOf(error)));
    }
    onChange();
  }
  const edit = (track: TrackSummary, command: Command): Promise<void> =>
    doing(() => api.edit(track.id, { revision: track.revision, batchId: crypto.randomUUID(), commands: [command] }));
  const rename = (track: TrackSummary, name: string): Promise<void> =>
    edit(track, { type: 'setTitle', title: name.trim() === '' ? recording.title : name.trim() });
  const duplicate = (track: TrackSummary): Promise<void> =>
    doing(() => api.duplicateTrack(recording.id, track.id, words.copy(ownTrackName(track, recording))));
</script>

{#if recording.tracks.length > 0 || binned.length > 0}
  <section aria-label={words.title}>
    <h2>{words.title}</h2>
    <ul>
      {#each recording.tracks as track (track.id)}
        {@const label = labels.get(track.id) ?? ''}
        <li>
          <div class="what">
            <a href="/recordings/{recording.id}/tracks/{track.id}/read">{label}</a>
            <span class="soft">{words.counts(track)}</span>
          </div>
          <input
            class="field"
            maxlength="300"
            placeholder={words.name}
            aria-label={words.nameOf(label)}
            value={ownTrackName(track, recording)}
            onchange={(event) => void rename(track, event.currentTarget.value)}
          />
          <select
            class="field"
            aria-label={words.state(label)}
            value={track.state}
            onchange={(event) =>
              void edit(track, { type: 'setState', state: event.currentTarget.value === 'ready' ? 'ready' : 'draft' })}
          >
            <option value="draft">{words.states.draft}</option>
            <option value="ready">{words.states.ready}</option>
            {#if track.state === 'handed over'}<option value="handed over">{words.states['handed over']}</option>{/if}
          </select>
          <button
            class="icon"
            aria-label={words.duplicateOf(label)}
            title={words.duplicate}
            onclick={() => void duplicate(track)}><Copy size={16} /></button
          >
          <button
            class="icon"
            aria-label={words.binOf(label)}
            title={words.bin}
            onclick={() => void doing(() => api.binTrack(track.id))}><Trash2 size={16} /></button
          >
        </li>
      {/each}
    </ul>
    {#if binned.length > 0}
      <details>
        <summary class="soft">{words.inBin(binned.length)}</summary>
        <ul>
          {#each binned as track (track.id)}
            <li class="binned">
              <div class="what">
                <span>{binnedLabels.get(track.id)}</span>
                <span class="soft">{words.counts(track)}</span>
              </div>
              <button class="act" onclick={() => void doing(() => api.restoreTrack(track.id))}
                ><Undo2 size={15} /> {words.back}</button
              >
              <button class="act quiet warn" onclick={() => void doing(() => api.removeTrack(track.id))}
                >{words.remove}</button
              >
            </li>
          {/each}
        </ul>
      </details>
    {/if}
  </section>
{/if}

<style>
  section {
    display: grid;
    gap: 8px;
    padding-top: 16px;
    border-top: 1px solid var(--rule);
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(90px, 170px) 118px 28px 28px;
    align-items: center;
    gap: 10px;
    padding: 5px 0;
  }
  li.binned {
    grid-template-columns: minmax(0, 1fr) auto auto;
  }
  .what {
    display: grid;
    min-width: 0;
  }
  .what > * {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .what .soft {
    font-size: 14px;
  }
  .what a {
    color: var(--leaf);
    font-weight: 600;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  summary {
    cursor: pointer;
  }
</style>
