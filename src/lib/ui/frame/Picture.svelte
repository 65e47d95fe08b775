<script lang="ts">
  import { untrack, type Component } from 'svelte';
  import { shapeRatio } from '$lib/core/rendering';
  import { cuesAt, lookUp, plainLines, type Cue } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { LayoutCache } from '$lib/client/picture/layout-cache';
  import { CaptionStage, WaveStage } from '$lib/client/picture/stage';
  import { pictureShape } from '$lib/client/picture/shape.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  interface Props {
    /** What lies over the picture, such as what moves the captions. */
    Over: Component | null;
    /** Takes all the room there is, instead of a shape of its own. */
    isLarge: boolean;
  }
  let { Over, isLarge }: Props = $props();

  const desk = useTrackDesk();
  const { recording, player } = desk;
  let media = $state<HTMLMediaElement | undefined>();
  let frame = $state<HTMLElement | undefined>();
  let wave = $state<HTMLCanvasElement | undefined>();
  let captions = $state<HTMLElement | undefined>();
  let captionsAbove = $state<HTMLElement | undefined>();
  let roomWidth = $state(0);
  let roomHeight = $state(0);
  /** Of the video as it is shown, turned as its file says. */
  let own = $state({ width: recording.media.width ?? 16, height: recording.media.height ?? 9 });
  let holdsStill = $state(false);
  let pixelRatio = $state(1);
  const cache = new LayoutCache();
  const cacheAbove = new LayoutCache();

  $effect(() => {
    desk.dressing.picture = frame ?? null;
  });
  $effect(() => (media ? player.attach(media) : undefined));

  const ratio = $derived(
    shapeRatio(pictureShape.aspect) ?? (recording.media.hasVideo ? own.width / own.height : 16 / 9)
  );
  const box = $derived.by(() => {
    const width = Math.min(roomWidth, roomHeight * ratio);
    return { width: Math.round(width), height: Math.round(width / ratio) };
  });
  const size = $derived({
    width: Math.max(1, Math.round(box.width * pixelRatio)),
    height: Math.max(1, Math.round(box.height * pixelRatio))
  });

  const shown = $derived(desk.translating.instead ?? desk.drawn);
  /** While paused the chosen cue is shown where no other is: it is the one being worked on. */
  const spoken: Cue | null = $derived.by(() => {
    if (desk.translating.instead !== null)
      return cuesAt(shown.cues, player.nowMs)[0] ?? desk.translating.row?.sourceCues[0] ?? null;
    const id = desk.spokenCueId ?? (player.isPlaying ? null : desk.cueId);
    return id === null ? null : (lookUp(desk.drawn).findCue(id) ?? null);
  });

  function draw(stage: CaptionStage, ms: number): void {
    const instead = player.isPlaying || cuesAt(shown.cues, ms).length > 0 ? null : spoken;
    const shots = cache.shotsAt(shown, ms, { size, holdsStill, instead });
    stage.show(shots, pixelRatio);
    desk.dressing.seen = shots;
  }

  /** Captions of another language, above those of the track. */
  $effect(() => {
    const { above } = desk.translating;
    if (captionsAbove === undefined || above === null) return;
    const stage = new CaptionStage(captionsAbove);
    void fonts.version;
    const show = (ms: number): void =>
      stage.show(cacheAbove.shotsAt(above, ms, { size, holdsStill, instead: null }), pixelRatio);
    show(player.nowMs);
    const stop = untrack(() => player.onFrame(show));
    return () => {
      stop();
      stage.clear();
    };
  });

  $effect(() => {
    if (captions === undefined) return;
    const stage = new CaptionStage(captions);
    const video = media instanceof HTMLVideoElement && 'requestVideoFrameCallback' in media ? media : null;
    $effect(() => {
      void [shown, size, fonts.version, spoken, holdsStill];
      draw(stage, player.nowMs);
    });
    // While it plays, captions change with the frame that is shown, not with the clock.
    const stop = untrack(() =>
      player.onFrame((ms) => {
        if (video === null || !player.isPlaying) draw(stage, ms);
      })
    );
    let request = 0;
    const onFrame = (_: number, { mediaTime }: VideoFrameCallbackMetadata): void => {
      if (player.isPlaying) draw(stage, Math.round(mediaTime * 1000));
      request = video!.requestVideoFrameCallback(onFrame);
    };
    if (video !== null) request = video.requestVideoFrameCallback(onFrame);
    return () => {
      stop();
      video?.cancelVideoFrameCallback(request);
      stage.clear();
    };
  });

  $effect(() => {
    const levels = desk.sound?.levels;
    if (wave === undefined || levels === undefined) return;
    const stage = new WaveStage(wave);
    const behind = { size, color: pictureShape.background };
    return untrack(() => player.onFrame((ms) => stage.show(levels, ms, behind)));
  });

  $effect(() => {
    const still = matchMedia('(prefers-reduced-motion: reduce)');
    const look = (): void => {
      holdsStill = still.matches;
      pixelRatio = Math.min(3, devicePixelRatio);
    };
    look();
    still.addEventListener('change', look);
    addEventListener('resize', look);
    return () => {
      still.removeEventListener('change', look);
      removeEventListener('resize', look);
    };
  });
</script>

<div
  class="picture"
  class:large={isLarge}
  bind:this={frame}
  bind:clientWidth={roomWidth}
  bind:clientHeight={roomHeight}
>
  <div
    class="shape"
    style:background={recording.media.hasVideo ? null : pictureShape.background}
    style:width="{box.width}px"
    style:height="{box.height}px"
    data-testid="picture"
  >
    {#if recording.media.hasVideo}
      <!-- The captions are drawn above it, as they will look. -->
      <!-- svelte-ignore a11y_media_has_caption -->
      <video
        bind:this={media}
        src={api.mediaUrl(recording.id)}
        preload="auto"
        playsinline
        tabindex="-1"
        class:cropped={pictureShape.fit === 'crop'}
        class:filling={pictureShape.aspect === 'as is'}
        onloadedmetadata={({ currentTarget: { videoWidth, videoHeight } }) => {
          if (videoWidth > 0) own = { width: videoWidth, height: videoHeight };
        }}
      ></video>
    {:else}
      <audio bind:this={media} src={api.mediaUrl(recording.id)} preload="auto"></audio>
      {#if pictureShape.isWaved}<canvas class="wave" bind:this={wave}></canvas>
      {:else}<p class="none">{phrases.picture.soundOnly}</p>{/if}
    {/if}
    <div class="captions" bind:this={captions} aria-hidden="true"></div>
    <div class="captions" bind:this={captionsAbove} aria-hidden="true"></div>
    {#if Over}<Over />{/if}
  </div>
  {#if spoken !== null}
    <p class="unseen" data-testid="picture-cue">{plainLines(shown, spoken).join(' ')}</p>
  {/if}
  {#if player.failure ?? fonts.failure}<p class="failure" role="alert">{player.failure ?? fonts.failure}</p>{/if}
</div>

<style>
  .picture {
    position: relative;
    display: grid;
    place-items: center;
    aspect-ratio: 16 / 9;
    width: 100%;
    overflow: hidden;
    border-radius: 4px;
  }
  .picture.large {
    flex: 1 1 0 !important;
    aspect-ratio: auto;
    min-height: 160px;
  }
  .picture:fullscreen {
    aspect-ratio: auto;
    border-radius: 0;
    background: #000;
  }
  .shape {
    position: relative;
    overflow: hidden;
    background: var(--screen);
  }
  video {
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
  .cropped {
    object-fit: cover;
  }
  /* Its own shape: rounding leaves no bar at an edge. */
  .filling {
    object-fit: fill;
  }
  .none {
    position: absolute;
    inset: 14px auto auto 16px;
    color: #e8e6da;
    font-size: 13px;
  }
  .wave {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  .captions {
    position: absolute;
    inset: 0;
    overflow: hidden;
    pointer-events: none;
  }
  .captions > :global(canvas) {
    position: absolute;
    top: 0;
    left: 0;
  }
  .captions > :global(canvas[hidden]) {
    display: none;
  }
  .failure {
    position: absolute;
    inset: auto 0 0 0;
    padding: 8px 12px;
    background: var(--pale-clay);
    color: var(--clay);
  }
</style>
