<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { quietStretches } from '$lib/core/audio';
  import { breakIntoRows } from '$lib/core/rows';
  import { spokenOrder } from '$lib/core/track';
  import { joinsOf, mapOf, roomSpans, trimInstants, trimLevels, trimSpans, trimSpeech } from '$lib/core/trims';
  import { preferences } from '$lib/client/preferences.svelte';
  import type { Sound } from '$lib/client/recording-view.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { geometryOf, heightOf, PAD, placeHead, topsOf } from './geometry';
  import type { RowSource } from './row-source';
  import TrellisRow from './TrellisRow.svelte';
  import { gainOf } from './wave';
  import { phrases } from './phrases';

  /** The trellis as it is of a trim: looked at, and changed as it was recorded. */
  const desk = useTrackDesk();
  const { player } = desk;
  const { seen } = desk.trimming;
  let box = $state<HTMLElement | undefined>();
  let head = $state<HTMLElement | undefined>();
  let width = $state(880);
  let nearMs = $state(0);

  const map = $derived(mapOf(seen.trim ?? { pieces: [] }));
  const sound: Sound | null = $derived.by(() => {
    if (desk.sound === null) return null;
    const { levels, speech } = desk.sound;
    return {
      levels: trimLevels(levels, map, roomSpans(levels, speech)[0]),
      speech: { ...trimSpeech(speech, map), regions: trimSpans(speech.regions, map) }
    };
  });
  const order = $derived(spokenOrder(seen.track.words));
  const joinsMs = $derived(joinsOf(map).map(({ atMs }) => atMs));
  const shotsMs = $derived(trimInstants(desk.on.shotsMs, map));
  const source: RowSource = $derived({
    ...{ track: seen.track, spokenOrder: order, durationMs: map.lengthMs, shotsMs, joinsMs },
    // The spectrum of a cut is not known before it is made.
    ...{ standing: null, spectrumOf: null }
  });
  const gain = $derived(sound === null ? 1 : gainOf(sound.levels));
  const geometry = $derived(geometryOf(width, preferences.rowMs));
  const rows = $derived(
    breakIntoRows({
      durationMs: map.lengthMs,
      speech: sound?.speech ?? { frameMs: 32, probabilities: [] },
      regions: sound?.speech.regions ?? [],
      quiet: sound === null ? [] : quietStretches(sound.levels, { minLengthMs: 2000 }),
      rowMs: preferences.rowMs
    })
  );
  const tops = $derived(topsOf(geometry, rows));

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    ...{ count: 0, getScrollElement: () => null, estimateSize: () => 140 },
    ...{ paddingStart: PAD, paddingEnd: 40, overscan: 2 }
  });
  $effect(() => {
    const element = box ?? null;
    const [list, sizes] = [rows, geometry];
    untrack(() => {
      get(virtual).setOptions({
        count: list.length,
        getScrollElement: () => element,
        estimateSize: (at) => heightOf(sizes, list[at])
      });
      get(virtual).measure();
    });
  });

  // The playhead stands where what is heard of the recording plays first.
  $effect(() => {
    const element = head;
    const placed = { geometry, rows, tops };
    const { trimmedAt } = map;
    if (element === undefined || rows.length === 0) return;
    return player.onFrame((recordedMs) => {
      const nowMs = trimmedAt(recordedMs)[0];
      element.hidden = nowMs === undefined;
      if (nowMs === undefined) return;
      placeHead(element, nowMs, placed);
      if (Math.abs(nowMs - untrack(() => nearMs)) > 1000) nearMs = nowMs;
    });
  });

  /** The cue of the same id; one that plays again has none. */
  function choose(event: MouseEvent): void {
    const id = (event.target as HTMLElement).closest<HTMLElement>('[data-cue]')?.dataset.cue;
    desk.chooseCue(
      desk.track.cues.find((cue) => cue.id === id),
      { seek: true }
    );
  }
  export function focus(): void {
    box?.focus({ preventScroll: true });
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<div
  class="trellis"
  bind:this={box}
  bind:clientWidth={width}
  tabindex="0"
  role="region"
  aria-label={phrases.asTrimmed.label}
  data-surface
  data-testid="trellis-trimmed"
  onclick={choose}
>
  <div class="content" style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const row = rows[item.index]}
      {#if row}
        <div class="place" style:transform="translateY({item.start}px)">
          <TrellisRow
            {...{ source, row, geometry, sound, gain }}
            cues={source.track.cues}
            drawing={null}
            caught={null}
            fontsAt={0}
            nearMs={geometry.density === 'middle' ? nearMs : 0}
          />
        </div>
      {/if}
    {/each}
    <div class="playhead" bind:this={head} aria-hidden="true"></div>
  </div>
</div>

<style>
  .trellis {
    position: relative;
    height: 100%;
    background: var(--sheet);
    overflow-x: hidden;
    overflow-y: auto;
    outline: none;
  }
  .content {
    position: relative;
  }
  .place {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
  }
  /* Nothing is dragged here. */
  .place :global(.edge) {
    display: none;
  }
  .playhead {
    position: absolute;
    top: 0;
    left: -1px;
    z-index: 7;
    width: 2px;
    background: var(--grape);
    pointer-events: none;
  }
</style>
