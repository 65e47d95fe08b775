<script lang="ts">
  import { placeCue } from '$lib/core/layout';
  import { lineWords, lookUp, placementOf, type Cue, type MarkKind, type Word } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { recording, player } = desk;
  let media = $state<HTMLMediaElement | undefined>();
  let width = $state(0);
  let height = $state(0);

  $effect(() => (media ? player.attach(media) : undefined));

  // While paused the chosen cue is shown: it is the one being worked on.
  const cue: Cue | null = $derived.by(() => {
    const spoken = desk.spokenCueId === null ? null : (lookUp(desk.track).findCue(desk.spokenCueId) ?? null);
    return player.isPlaying ? spoken : (spoken ?? desk.cue);
  });
  const lines = $derived(cue === null ? [] : lineWords(desk.track, cue));
  const placement = $derived(cue === null ? desk.track.look.placement : placementOf(desk.track, cue));
  const placed = $derived(placeCue(desk.track.look, placement, { width, height }));

  const isMarked = (word: Word, kind: MarkKind): boolean => word.marks.some((mark) => mark.kind === kind);
</script>

<div class="picture" class:sound-only={!recording.media.hasVideo} bind:clientWidth={width} bind:clientHeight={height}>
  {#if recording.media.hasVideo}
    <!-- The captions are drawn above it, as they will look. -->
    <!-- svelte-ignore a11y_media_has_caption -->
    <video bind:this={media} src={api.mediaUrl(recording.id)} preload="auto" playsinline tabindex="-1"></video>
  {:else}
    <audio bind:this={media} src={api.mediaUrl(recording.id)} preload="auto"></audio>
    <p class="none">{phrases.picture.soundOnly}</p>
  {/if}
  {#if lines.length > 0}
    <div
      class="cue {placed.anchorX} {placed.anchorY}"
      style:left="{placed.x}px"
      style:top="{placed.y}px"
      style:font-size="{placed.fontPx}px"
      style:line-height="{placed.lineHeightPx}px"
      data-testid="picture-cue"
    >
      {#each lines as words, at (at)}
        <div class="line">
          <span
            >{#each words as word, index (word.id)}{index > 0 && word.spaceBefore ? ' ' : ''}<span
                class:italic={isMarked(word, 'i')}
                class:bold={isMarked(word, 'b')}
                class:underline={isMarked(word, 'u')}>{word.text}</span
              >{/each}</span
          >
        </div>
      {/each}
    </div>
  {/if}
  {#if player.failure}<p class="failure" role="alert">{player.failure}</p>{/if}
</div>

<style>
  .picture {
    position: relative;
    aspect-ratio: 16 / 9;
    width: 100%;
    overflow: hidden;
    border-radius: 4px;
    background: var(--screen);
  }
  .sound-only {
    background: color-mix(in oklab, var(--leaf), var(--screen) 72%);
  }
  video {
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
  .none {
    position: absolute;
    inset: 14px auto auto 16px;
    color: #e8e6da;
    font-size: 13px;
  }
  .cue {
    position: absolute;
    max-width: 90%;
    font-weight: 600;
  }
  .cue.centre {
    translate: -50% 0;
    text-align: center;
  }
  .cue.right {
    translate: -100% 0;
    text-align: right;
  }
  .cue.bottom {
    translate: 0 -100%;
  }
  .cue.middle {
    translate: 0 -50%;
  }
  .cue.centre.bottom {
    translate: -50% -100%;
  }
  .cue.centre.middle {
    translate: -50% -50%;
  }
  .cue.right.bottom {
    translate: -100% -100%;
  }
  .cue.right.middle {
    translate: -100% -50%;
  }
  .line {
    white-space: nowrap;
  }
  .line > span {
    padding: 0.08em 0.42em;
    background: rgb(15 17 14 / 0.86);
    color: #fff;
  }
  .italic {
    font-style: italic;
  }
  .bold {
    font-weight: 800;
  }
  .failure {
    position: absolute;
    inset: auto 0 0 0;
    padding: 8px 12px;
    background: var(--pale-clay);
    color: var(--clay);
  }
</style>
