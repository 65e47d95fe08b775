<script lang="ts">
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import { findSounds, SOUND_PALETTE } from '$lib/core/audio';
  import { formatClock, lastStartingBy, overlapMs, type Span } from '$lib/core/time';
  import { useWorkspace } from '$lib/client/workspace.svelte';

  const workspace = useWorkspace();
  const { player } = workspace;
  const MOST_LISTED = 40;

  const found = $derived(
    workspace.sound === null ? [] : findSounds(workspace.sound.levels, workspace.sound.speech.regions)
  );
  /** Those that no cue tells of yet. */
  const untold = $derived.by(() => {
    const { cues } = workspace.track;
    return found.filter((sound) => {
      const last = lastStartingBy(cues, sound.endMs);
      for (let at = last; at >= 0 && at > last - 4; at--)
        if (overlapMs(cues[at]!, sound) > 0.3 * (sound.endMs - sound.startMs)) return false;
      return true;
    });
  });

  function listen(sound: Span): void {
    workspace.seek(Math.max(0, sound.startMs - 300));
    if (!player.isPlaying) player.toggle();
  }

  function describe(sound: Span, input: HTMLInputElement): void {
    workspace.page.describeSound(input.value, sound);
    input.value = '';
  }
</script>

<datalist id="sound-palette">
  {#each SOUND_PALETTE as sound (sound)}<option value={sound.slice(1, -1)}></option>{/each}
</datalist>
{#if workspace.describingMs !== null}
  {@const atMs = workspace.describingMs}
  <label class="here"
    >Sound at <span class="mono">{formatClock(atMs)}</span>
    <input
      class="field"
      list="sound-palette"
      placeholder="what is it?"
      {@attach (element: HTMLInputElement) => element.focus()}
      onkeydown={(event) => {
        if (event.key === 'Enter')
          workspace.page.describeSound(event.currentTarget.value, { startMs: atMs, endMs: atMs });
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.stopPropagation();
        workspace.describingMs = null;
        workspace.surface?.focus();
      }}
      onblur={() => (workspace.describingMs = null)}
    /></label
  >
{/if}
{#if untold.length > 0}
  <details>
    <summary>{untold.length === 1 ? 'A sound' : `${untold.length} sounds`} without a caption</summary>
    <ul>
      {#each untold.slice(0, MOST_LISTED) as sound (sound.startMs)}
        {@const clock = formatClock(sound.startMs)}
        <li>
          <span class="mono">{clock}</span>
          <span class="soft mono">{((sound.endMs - sound.startMs) / 1000).toFixed(1)} s</span>
          <button
            class="act quiet"
            aria-label="Listen to the sound at {clock}"
            title="Listen"
            onclick={() => listen(sound)}><Volume2 size={16} /></button
          >
          <input
            class="field"
            list="sound-palette"
            placeholder="what is it?"
            aria-label="Describe the sound at {clock}"
            onchange={(event) => describe(sound, event.currentTarget)}
          />
        </li>
      {/each}
    </ul>
    {#if untold.length > MOST_LISTED}<p class="soft">The first {MOST_LISTED} are listed.</p>{/if}
  </details>
{/if}

<style>
  .here {
    display: grid;
    grid-template-columns: auto auto 1fr;
    align-items: center;
    gap: 8px;
  }
  summary {
    font-weight: 700;
    cursor: pointer;
  }
  ul {
    display: grid;
    gap: 6px;
    margin-top: 8px;
  }
  li {
    display: grid;
    grid-template-columns: auto auto auto minmax(0, 1fr);
    align-items: center;
    gap: 8px;
  }
</style>
