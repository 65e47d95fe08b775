<script lang="ts">
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import { SOUND_PALETTE } from '$lib/core/audio';
  import { formatClock, type Span } from '$lib/core/time';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import { NO_ROOM_FOR_SOUND } from '$lib/client/page-commands';
  import { NUMBERED_SOUNDS } from '$lib/client/untold-sounds.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { player, untold } = desk;
  const MOST_LISTED = 40;

  function listen(sound: Span): void {
    desk.seek(Math.max(0, sound.startMs - 300));
    if (!player.isPlaying) player.toggle();
  }

  /** A field that describes a sound: its text is kept at each key and becomes a cue when the field is left. */
  const describing = (sound: Span) => (field: HTMLInputElement) => {
    const draft = desk.session.draft(phrases.sounds.draftOf(sound.startMs), commit);
    const typed = () => ({ text: field.value, command: desk.page.soundCommand(field.value, sound) });
    let isTyped = false;
    function mirror(): void {
      isTyped = true;
      const { text, command } = typed();
      draft.mirror(command === null || command === 'no room' ? null : { commands: [command], text });
    }
    function commit(): void {
      // After a commit the session keeps the mirror until the command is in the queue.
      if (!isTyped) return;
      isTyped = false;
      const { text, command } = typed();
      field.value = '';
      if (command === null || command === 'no room') draft.mirror(null);
      else if (draft.commit({ commands: [command], text }).ok) desk.say(phrases.sounds.isDescribed(text));
      if (command === 'no room') desk.say(NO_ROOM_FOR_SOUND);
    }
    field.addEventListener('input', mirror);
    field.addEventListener('change', commit);
    return () => draft.close();
  };
</script>

<datalist id="sound-palette">
  {#each SOUND_PALETTE as sound (sound)}<option value={sound.slice(1, -1)}></option>{/each}
</datalist>
{#if desk.describingMs !== null}
  {@const atMs = desk.describingMs}
  <label class="here"
    >{phrases.sounds.soundAt} <span class="mono">{formatClock(atMs)}</span>
    <input
      class="field"
      list="sound-palette"
      placeholder={phrases.sounds.whatIsIt}
      {@attach describing({ startMs: atMs, endMs: atMs })}
      {@attach (element: HTMLInputElement) => element.focus()}
      onkeydown={(event) => {
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.stopPropagation();
        if (event.key === 'Escape') event.currentTarget.value = '';
        desk.describingMs = null;
        desk.surface?.focus();
      }}
      onblur={() => (desk.describingMs = null)}
    /></label
  >
{/if}
{#if untold.current !== null}
  {@const { startMs, endMs } = untold.current}
  <section
    class="asked"
    aria-label={phrases.sounds.whatIsTheSound}
    {@attach (element: HTMLElement) => element.scrollIntoView({ block: 'nearest' })}
  >
    <p>
      <b>{phrases.sounds.soundAt} <span class="mono">{formatClock(startMs)}</span></b>
      <span class="soft mono">{((endMs - startMs) / 1000).toFixed(1)} s</span>
    </p>
    <ol aria-label={phrases.sounds.descriptions}>
      {#each NUMBERED_SOUNDS as description, at (description)}
        <li>
          <button onclick={() => untold.take(at + 1)}><kbd>{at + 1}</kbd> {description}</button>
        </li>
      {/each}
    </ol>
    <p class="acts">
      <button class="act" onclick={() => untold.step(1)}
        >{phrases.sounds.next} <kbd>{surfaceKey('nextSound')}</kbd></button
      >
      <button class="act" onclick={() => untold.leave()}>{phrases.sounds.leave}</button>
    </p>
  </section>
{/if}
{#if untold.list.length > 0}
  <details>
    <summary
      >{phrases.sounds.without(untold.list.length)}
      <kbd>{surfaceKey('nextSound')}</kbd></summary
    >
    <ul>
      {#each untold.list.slice(0, MOST_LISTED) as sound (sound.startMs)}
        {@const clock = formatClock(sound.startMs)}
        <li>
          <span class="mono">{clock}</span>
          <span class="soft mono">{((sound.endMs - sound.startMs) / 1000).toFixed(1)} s</span>
          <button
            class="act quiet"
            aria-label={phrases.sounds.listenToTheSound(clock)}
            title={phrases.sounds.listen}
            onclick={() => listen(sound)}><Volume2 size={16} /></button
          >
          <input
            class="field"
            list="sound-palette"
            placeholder={phrases.sounds.whatIsIt}
            aria-label={phrases.sounds.describeTheSoundAt(clock)}
            {@attach describing(sound)}
          />
        </li>
      {/each}
    </ul>
    {#if untold.list.length > MOST_LISTED}<p class="soft">{phrases.sounds.mostListed(MOST_LISTED)}</p>{/if}
  </details>
{/if}

<style>
  .asked {
    display: grid;
    gap: 8px;
    padding: 8px 12px;
    border-left: 3px solid var(--straw);
    background: var(--sheet);
  }
  .asked ol {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 2px;
  }
  .asked ol button {
    width: 100%;
    padding: 3px 6px;
    border-radius: 6px;
    text-align: left;
  }
  .asked ol button:hover,
  .asked ol button:focus-visible {
    background: var(--pale-leaf);
  }
  .asked .acts {
    display: flex;
    gap: 8px;
  }
  .here {
    display: grid;
    grid-template-columns: auto auto minmax(0, 1fr);
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
