<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { surfaceKey, titleOf } from '$lib/client/keys/key-sets';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';

  /** What the surface shows and how the hand works, always in sight; while something is tried, that. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { trial } = desk;

  const hasFrames = desk.recording.media.frameRate !== undefined;
  const steps = $derived([
    ['nextFinding', 'rule'],
    ['nextBookmark', 'bookmark'],
    ['nextGap', 'gap'],
    ...(desk.on.shotsMs.length > 0 ? [['nextShot', 'shot'] as const] : [])
  ] as const satisfies readonly (readonly [CommandId, string])[]);
</script>

<div class="strip" class:tried={trial.track !== null}>
  {#if trial.track !== null}
    <p role="status" data-testid="trial"><strong>Tried, not taken.</strong> Dashed outlines show where cues are now.</p>
    <button class="act filled" onclick={() => trial.take()}>Apply <kbd>{surfaceKey('takeTrial')}</kbd></button>
    <button class="act" onclick={() => trial.leave()}>Discard <kbd>{surfaceKey('letGo')}</kbd></button>
  {:else}
    <span class="group" role="group" aria-label="What is shown">
      <button title={titleOf('view')} onclick={() => onCommand('view')}
        >{preferences.timeView === 'both' ? 'trellis and table' : preferences.timeView}</button
      >
      <button title={titleOf('soundView')} onclick={() => onCommand('soundView')}
        >{preferences.soundView === 'both' ? 'wave and spectrum' : preferences.soundView}</button
      >
      {#if hasFrames}
        <button title={titleOf('timesAs')} onclick={() => onCommand('timesAs')}>{preferences.timesAs}</button>
      {/if}
    </span>
    <span class="group" role="group" aria-label="How the hand works">
      <button title={titleOf('ripple')} aria-pressed={preferences.ripple} onclick={() => onCommand('ripple')}
        >what follows {preferences.ripple ? 'moves along' : 'stays'}</button
      >
      {#if hasFrames}
        <button
          title="How far a key moves an edge"
          onclick={() => preferences.set({ nudge: preferences.nudge === 'frame' ? '10 ms' : 'frame' })}
          >step {preferences.nudge === 'frame' ? 'a frame' : '10 ms'}</button
        >
      {/if}
    </span>
    <span class="group next" role="group" aria-label="Go to the next">
      <span class="soft">next</span>
      {#each steps as [id, name] (id)}
        <button title={titleOf(id)} onclick={() => onCommand(id)}>{name} <kbd>{surfaceKey(id)}</kbd></button>
      {/each}
    </span>
  {/if}
</div>

<style>
  .strip {
    display: flex;
    gap: 18px;
    align-items: center;
    min-height: 36px;
    padding: 0 14px;
    border-bottom: 1px solid var(--rule);
    background: var(--paper);
    font-size: 14px;
    white-space: nowrap;
  }
  .strip.tried {
    gap: 10px;
    background: var(--pale-leaf);
  }
  .tried .act {
    min-height: 28px;
    padding: 1px 10px;
  }
  p {
    flex: 1;
  }
  .filled kbd {
    color: inherit;
  }
  .group {
    display: flex;
    gap: 2px;
    align-items: center;
  }
  .next {
    margin-left: auto;
  }
  .group button {
    height: 28px;
    padding: 0 8px;
    border-radius: 3px 9px 3px 9px;
    color: var(--soft-ink);
  }
  .group button:hover {
    background: var(--pale-leaf);
    color: var(--ink);
  }
  .group button[aria-pressed='true'] {
    color: var(--leaf);
    font-weight: 700;
  }
</style>
