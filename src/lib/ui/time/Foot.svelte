<script lang="ts">
  import { readingSpeed } from '$lib/core/track';
  import { preferences } from '$lib/client/preferences.svelte';
  import { whenHandsRest } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let tooFast = $state.raw(0);
  $effect(() => {
    const { track } = desk;
    const count = (): void => {
      tooFast = track.cues.filter((cue) => readingSpeed(track, cue) > track.rules.maxCharsPerSecond).length;
    };
    return whenHandsRest(count);
  });
</script>

<span class:too-fast={tooFast > 0}
  >{tooFast === 0 ? phrases.foot.noneTooFast(desk.track.cues.length) : phrases.foot.tooFast(tooFast)}</span
>
<label class="zoom soft"
  ><span>4 s</span>
  <input
    type="range"
    min="4000"
    max="40000"
    step="1000"
    value={preferences.rowMs}
    oninput={(event) => preferences.set({ rowMs: Number(event.currentTarget.value) })}
    aria-label={phrases.foot.secondsARow}
    title={phrases.foot.rowHint}
  />
  <span>{phrases.foot.row(preferences.rowMs / 1000)}</span></label
>

<style>
  .too-fast {
    color: var(--clay);
    font-weight: 700;
  }
  .zoom {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  .zoom input {
    width: 110px;
  }
  .zoom span:last-child {
    min-width: 86px;
  }
</style>
