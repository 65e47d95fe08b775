<script lang="ts">
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import { untrack } from 'svelte';
  import type { CommandId } from '$lib/client/keys/commands';
  import { surfaceKey, titleOf } from '$lib/client/keys/key-sets';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import type { Snippet } from 'svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
    end?: Snippet;
  }
  let { onCommand, end }: Props = $props();
  const desk = useTrackDesk();
  const { player, recording } = desk;
  let clock = $state<HTMLElement | undefined>();

  $effect(() => {
    const element = clock;
    if (!element) return;
    const show = (ms: number): void => void (element.textContent = desk.on.showTime(ms, 2));
    show(untrack(() => player.nowMs));
    return player.onFrame(show);
  });
</script>

<footer aria-label={phrases.transport.transport}>
  <button
    class="play"
    onclick={() => desk.on.togglePlay()}
    aria-label={player.isPlaying ? phrases.transport.pause : phrases.transport.play}
    title={titleOf('play')}
  >
    {#if player.isPlaying}<Pause size={19} fill="currentColor" />{:else}<Play size={19} fill="currentColor" />{/if}
  </button>
  <p class="mono times">
    <span class="now" bind:this={clock} data-testid="clock">0:00.00</span>
    <span class="soft">/ {desk.on.showTime(recording.durationMs, 2)}</span>
  </p>
  <label class="soft"
    ><span class="name">{phrases.transport.speed}</span>
    <select class="speed" value={player.rate} onchange={(event) => player.setRate(Number(event.currentTarget.value))}>
      {#each [0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9, 2] as rate (rate)}<option
          value={rate}>{rate.toFixed(1)}×</option
        >{/each}
    </select>
  </label>
  <label class="soft" title={phrases.transport.afterPauseHint}
    ><span class="name">{phrases.transport.afterPause}</span>
    <select
      class="speed"
      value={preferences.backOnPauseMs}
      onchange={(event) => preferences.set({ backOnPauseMs: Number(event.currentTarget.value) })}
    >
      <option value={0}>{phrases.transport.stay}</option>
      {#each [500, 1000, 2000, 3000] as backMs (backMs)}<option value={backMs}>−{backMs / 1000} s</option>{/each}
    </select>
  </label>
  <button class="plain soft" onclick={() => onCommand('playOnce')} title={titleOf('playOnce')}
    >{phrases.transport.playOnce}</button
  >
  <button
    class="plain soft"
    aria-pressed={player.loop !== null}
    disabled={player.isDriven}
    onclick={() => onCommand('loop')}
    title={titleOf('loop')}>{phrases.transport.loop(player.loop !== null)}</button
  >
  {#if desk.cues.chosen.length > 1}
    <button class="plain chosen" onclick={() => onCommand('letGo')} title={titleOf('letGo')} data-testid="chosen-count"
      >{phrases.transport.cuesChosen(desk.cues.chosen.length)} <kbd>{surfaceKey('letGo')}</kbd></button
    >
  {/if}
  <p class="notice soft" title={desk.on.notice} role="status" aria-live="polite">{desk.on.notice}</p>
  <div class="end">{@render end?.()}</div>
</footer>

<style>
  footer {
    display: flex;
    align-items: center;
    gap: 16px;
    height: 52px;
    padding: 0 18px;
    border-top: 1px solid var(--rule);
    background: var(--paper);
  }
  .play {
    display: grid;
    flex: none;
    place-items: center;
    width: 36px;
    height: 36px;
    border-radius: 12px 3px 12px 3px;
    background: var(--grape);
    color: var(--on-grape);
    cursor: pointer;
  }
  .times {
    flex: none;
    min-width: 176px;
    font-size: 14px;
    white-space: nowrap;
  }
  .now {
    display: inline-block;
    min-width: 78px;
    font-size: 20px;
  }
  .speed {
    padding: 2px 2px;
    border: none;
    background: transparent;
    color: var(--soft-ink);
    font-size: 14px;
  }
  label,
  .plain {
    font-size: 14px;
    white-space: nowrap;
  }
  .plain {
    padding: 3px 6px;
    border-radius: 5px;
    cursor: pointer;
  }
  .plain:hover {
    background: var(--pale-leaf);
  }
  .plain[aria-pressed='true'] {
    color: var(--grape);
    font-weight: 700;
  }
  .chosen {
    background: var(--pale-leaf);
    font-weight: 700;
  }
  .notice {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    font-size: 14px;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .end {
    display: flex;
    align-items: center;
    gap: 16px;
    margin-left: auto;
    color: var(--soft-ink);
    font-size: 14px;
    white-space: nowrap;
  }
  @media (max-width: 1150px) {
    footer {
      gap: 8px;
      padding: 0 12px;
    }
    .name {
      position: absolute;
      clip-path: inset(50%);
    }
    .end {
      gap: 8px;
    }
    .end :global(input[type='range']) {
      width: 72px;
    }
  }
</style>
