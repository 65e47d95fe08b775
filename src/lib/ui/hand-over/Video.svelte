<script lang="ts">
  import Play from '@lucide/svelte/icons/play';
  import Download from '@lucide/svelte/icons/download';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { onMount } from 'svelte';
  import {
    ASPECTS,
    encodedSoundOf,
    estimateBytes,
    FITS,
    shapePicture,
    type Container,
    type RenderRequest,
    type VideoCodec
  } from '$lib/core/rendering';
  import { ownTrackName } from '$lib/core/formats';
  import type { TrackId } from '$lib/core/id';
  import { findLacking } from '$lib/core/layout';
  import { messageOf } from '$lib/core/message-of';
  import { formatClock, wholeMs } from '$lib/core/time';
  import { languageName } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { pictureShape } from '$lib/client/picture/shape.svelte';
  import { Renders } from '$lib/client/renders.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases as dress } from '../dress/phrases';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import WithSource from './WithSource.svelte';
  import { phrases } from './phrases';

  /** A video of the recording with its captions in the picture: what it is to be, how far it is, what was made. */
  const desk = useTrackDesk();
  const { recording, session } = desk;
  const renders = new Renders(recording.id);
  const words = phrases.video;
  onMount(() => renders.follow((error) => desk.say(messageOf(error))));

  const HEIGHTS = [2160, 1440, 1080, 720, 540, 360];
  const TRIAL_MS = 10_000;
  let format = $state('mp4 h264');
  let captions = $state<RenderRequest['captions']>('burned');
  /** Of what goes inside: which tracks, and which of them players show by themselves or always. */
  let inside = $state.raw<readonly TrackId[]>([session.trackId]);
  let shownFirst = $state<TrackId | null>(session.trackId);
  let forced = $state.raw<readonly TrackId[]>([]);
  let isAsItIs = $state(true);
  let by = $state<'quality' | 'rate'>('quality');
  let quality = $state(60);
  let kbps = $state(4000);
  let height = $state<number | null>(null);
  let sound = $state<'keep' | 'encode'>('keep');
  let isTrial = $state(false);
  let seen = $state<string | null>(null);

  const formats = $derived(
    Object.entries(words.formats).filter(
      ([id]) => renders.codecs === null || renders.codecs.includes(id.split(' ')[1]!)
    )
  );
  const [container, codec] = $derived(format.split(' ') as [Container, VideoCodec]);
  const wholeLengthMs = $derived(desk.trimming.seen.recording.durationMs);
  const lengthMs = $derived(isTrial ? Math.min(TRIAL_MS, wholeLengthMs) : wholeLengthMs);
  const picture = $derived({
    width: recording.media.width ?? 1280,
    height: recording.media.height ?? 720,
    pixelAspect: 1
  });
  const made = $derived(
    shapePicture(picture, { aspect: pictureShape.aspect, fit: pictureShape.fit, height: height ?? undefined })
  );
  const bytes = $derived(
    estimateBytes(asRequest(), {
      ...made,
      frameRate: recording.media.frameRate ?? 25,
      lengthMs,
      sourceBytesPerMs: recording.media.bytes / recording.durationMs
    })
  );
  /** Letters that their faces lack, told before anything is rendered. */
  const lacking = $derived.by(() => {
    void fonts.version;
    return findLacking(desk.track, fonts);
  });
  $effect(() => {
    if (lacking.wanted.length > 0) void fonts.want(lacking.wanted);
  });
  const isEmpty = $derived(
    (captions === 'burned' && desk.track.cues.length === 0) || (captions === 'inside' && inside.length === 0)
  );
  /** The picture is left as it is: nothing about it can be said. */
  const isCopied = $derived(
    desk.trimming.seen.id === null && captions === 'inside' && isAsItIs && recording.media.hasVideo
  );
  const toggled = (ids: readonly TrackId[], id: TrackId): readonly TrackId[] =>
    ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id];

  const trackName = (track: (typeof recording.tracks)[number]): string =>
    [languageName(track.language), ownTrackName(track, recording)].filter((part) => part !== '').join(', ');

  function asRequest(): RenderRequest {
    const fromMs = wholeMs(Math.max(0, Math.min(desk.player.nowMs, wholeLengthMs - TRIAL_MS)));
    return {
      ...(captions === 'burned' && { trackId: session.trackId }),
      ...(captions === 'burned' && desk.translating.both !== null && { withSource: true }),
      ...(captions === 'inside' && {
        trackIds: inside,
        marks: {
          defaultTrackId: shownFirst !== null && inside.includes(shownFirst) ? shownFirst : null,
          forcedTrackIds: forced.filter((id) => inside.includes(id))
        }
      }),
      captions,
      container,
      ...(desk.trimming.seen.id !== null && { trimId: desk.trimming.seen.id }),
      video: isCopied
        ? { codec: 'copy' }
        : {
            codec,
            ...(by === 'quality' ? { quality } : { kbps }),
            ...(height !== null && { height }),
            aspect: pictureShape.aspect,
            fit: pictureShape.fit
          },
      ...(sound === 'encode' && { audio: { codec: encodedSoundOf(container) } }),
      ...(!recording.media.hasVideo && { background: pictureShape.background, waveform: pictureShape.isWaved }),
      ...(isTrial && { fromMs, toMs: wholeMs(Math.min(wholeLengthMs, fromMs + TRIAL_MS)) })
    };
  }

  async function render(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    try {
      // The video is the server's work: what is still on its way there goes first.
      session.flush();
      await session.saved();
      await renders.start(asRequest());
    } catch (error) {
      desk.say(messageOf(error));
    }
  }

  const leftOf = (ms: number | undefined): string =>
    ms === undefined ? '' : formatClock(Math.round(ms / 1000) * 1000).replace(/\.\d+$/, '');
  const whenOf = (ms: number): string =>
    new Date(ms).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
  const lengthOf = (ms: number): string => formatClock(ms).replace(/\.\d+$/, '');
</script>

<div class="video">
  <form onsubmit={(event) => void render(event)}>
    <p class="soft">{recording.media.hasVideo ? words.intro : words.introSound}</p>
    <div class="fields">
      <label>
        <span>{words.format}</span>
        <select class="field" bind:value={format}>
          {#each formats as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      </label>
      <label>
        <span>{words.captions}</span>
        <select class="field" bind:value={captions}>
          {#each Object.entries(words.captionKinds) as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      </label>
      {#if captions === 'inside' && recording.media.hasVideo}
        <label>
          <span>{words.picture}</span>
          <select class="field" bind:value={isAsItIs}>
            <option value={true}>{words.asItIs}</option>
            <option value={false}>{words.encodedAnew}</option>
          </select>
        </label>
      {/if}
      {#if !isCopied}
        <label>
          <span>{words.by}</span>
          <span class="pair">
            <select class="field" bind:value={by} aria-label={words.by}>
              {#each Object.entries(words.bys) as [id, name] (id)}<option value={id}>{name}</option>{/each}
            </select>
            {#if by === 'quality'}
              <input
                class="field mono"
                type="number"
                min="1"
                max="100"
                aria-label={words.quality}
                bind:value={quality}
              />
              <span class="soft">{words.qualityUnit}</span>
            {:else}
              <input
                class="field mono"
                type="number"
                min="50"
                max="200000"
                step="50"
                aria-label={words.kbps}
                bind:value={kbps}
              />
              <span class="soft">{words.kbpsUnit}</span>
            {/if}
          </span>
        </label>
        <label>
          <span>{words.height}</span>
          <select class="field" bind:value={height}>
            <option value={null}>{words.asRecorded}</option>
            {#each HEIGHTS as one (one)}<option value={one}>{words.lines(one)}</option>{/each}
          </select>
        </label>
        <label>
          <span>{words.shape}</span>
          <span class="pair">
            <select class="field" bind:value={pictureShape.aspect} aria-label={words.shape}>
              {#each ASPECTS as one (one)}<option value={one}>{dress.shape.aspects[one]}</option>{/each}
            </select>
            {#if pictureShape.aspect !== 'as is' && recording.media.hasVideo}
              <select class="field" bind:value={pictureShape.fit} aria-label={words.fit}>
                {#each FITS as one (one)}<option value={one}>{dress.shape.fits[one]}</option>{/each}
              </select>
            {/if}
          </span>
        </label>
      {/if}
      <label>
        <span>{words.sound}</span>
        <select class="field" bind:value={sound}>
          {#each Object.entries(words.sounds) as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      </label>
      {#if !recording.media.hasVideo}
        <label>
          <span>{words.background}</span>
          <input type="color" class="field" bind:value={pictureShape.background} />
        </label>
        <label class="check">
          <input type="checkbox" bind:checked={pictureShape.isWaved} />
          {dress.shape.waveform}
        </label>
      {/if}
      <label>
        <span>{words.stretch}</span>
        <select class="field" bind:value={isTrial}>
          <option value={false}>{words.whole}</option>
          <option value={true}>{words.trial}</option>
        </select>
      </label>
    </div>
    {#if captions === 'inside'}
      <table>
        <caption class="soft">{words.insideHint}</caption>
        <thead>
          <tr
            ><th scope="col">{words.track}</th><th scope="col" title={words.firstHint}>{words.first}</th><th
              scope="col"
              title={words.forcedHint}>{words.forced}</th
            ></tr
          >
        </thead>
        <tbody>
          {#each recording.tracks as track (track.id)}
            {@const name = trackName(track)}
            {@const isInside = inside.includes(track.id)}
            <tr>
              <th scope="row"
                ><label class="check"
                  ><input
                    type="checkbox"
                    checked={isInside}
                    onchange={() => (inside = toggled(inside, track.id))}
                  />{name}</label
                ></th
              >
              <td
                ><input
                  type="checkbox"
                  aria-label="{name}: {words.first}"
                  disabled={!isInside}
                  checked={isInside && shownFirst === track.id}
                  onchange={(event) => (shownFirst = event.currentTarget.checked ? track.id : null)}
                /></td
              >
              <td
                ><input
                  type="checkbox"
                  aria-label="{name}: {words.forced}"
                  disabled={!isInside}
                  checked={isInside && forced.includes(track.id)}
                  onchange={() => (forced = toggled(forced, track.id))}
                /></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
    {#if captions === 'burned'}
      <WithSource />
      {#each lacking.lacking as { face, drawnIn, letters } (`${face} ${drawnIn}`)}
        <p class="soft lacking">{dress.letters.lacking(letters, face, drawnIn)}</p>
      {/each}
    {/if}
    <div class="go">
      <button class="act filled" disabled={isEmpty}>{words.render}</button>
      <span class="soft" data-testid="estimate"
        >{isEmpty
          ? captions === 'inside'
            ? words.noTracks
            : words.noCues
          : `${made.width} × ${made.height}, ${words.estimate(lengthOf(lengthMs), bytes)}`}</span
      >
    </div>
  </form>

  {#each renders.jobs as job (job.id)}
    {#if job.state === 'failed'}
      <p class="failed" role="alert">{words.failed(job.error ?? '')}</p>
    {:else}
      <div class="job" role="status">
        <ProgressBar label={words.rendering} progress={job.progress} />
        <span class="soft"
          >{job.state === 'queued'
            ? words.waiting
            : words.left(job.stage, Math.round(job.progress * 100), leftOf(job.leftMs))}</span
        >
        <button
          class="act"
          onclick={() => void renders.cancel(job.id).catch((error: unknown) => desk.say(messageOf(error)))}
          >{words.cancel}</button
        >
      </div>
    {/if}
  {/each}

  <section aria-label={words.made}>
    <h3>{words.made}</h3>
    {#if renders.list.length === 0 && renders.gone.length === 0}<p class="soft">{words.none}</p>{/if}
    <ul>
      {#each renders.list as one (one.id)}
        <li>
          <span class="name mono">{one.name}</span>
          <span class="soft">{words.facts(lengthOf(one.durationMs), one.bytes, whenOf(one.madeAtMs))}</span>
          <span class="acts">
            <button
              class="act quiet"
              aria-expanded={seen === one.id}
              onclick={() => (seen = seen === one.id ? null : one.id)}
              ><Play size={15} /> {seen === one.id ? words.close : words.look}</button
            >
            <a class="act" href={api.renderUrl(one.id)} download={one.name}><Download size={15} /> {words.save}</a>
            <button
              class="icon"
              aria-label="{words.remove} {one.name}"
              title={words.remove}
              onclick={() => renders.remove(one)}><Trash size={16} /></button
            >
          </span>
          {#if seen === one.id}
            <!-- Its captions are in its picture. -->
            <!-- svelte-ignore a11y_media_has_caption -->
            <video src="{api.renderUrl(one.id)}?inline" controls data-testid="rendered"></video>
          {/if}
        </li>
      {/each}
      {#each renders.gone as one (one.id)}
        <li class="gone">
          <span class="soft">{words.removed(one.name)}</span>
          <button class="act quiet" onclick={() => renders.bringBack(one)}>{words.bringBack}</button>
        </li>
      {/each}
    </ul>
  </section>
</div>

<style>
  .video {
    display: grid;
    align-content: start;
    gap: 22px;
    padding-bottom: 24px;
  }
  form {
    display: grid;
    gap: 16px;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
    gap: 14px 24px;
  }
  label {
    display: grid;
    gap: 3px;
    align-content: start;
    font-size: 14px;
  }
  .check {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  label .field {
    width: 100%;
  }
  table {
    justify-self: start;
    min-width: 420px;
    font-size: 15px;
  }
  caption {
    padding-bottom: 6px;
    font-size: 14px;
    text-align: left;
  }
  thead th {
    padding: 2px 20px 4px 0;
    font-size: 13px;
    font-weight: 400;
    text-align: left;
  }
  tbody th {
    font-weight: 400;
    text-align: left;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
  tbody th,
  td {
    padding: 5px 20px 5px 0;
  }
  .pair {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  .pair .soft {
    font-size: 13px;
    white-space: nowrap;
  }
  input[type='number'] {
    max-width: 96px;
    text-align: right;
  }
  .lacking {
    font-size: 14px;
  }
  .go {
    display: flex;
    align-items: center;
    gap: 18px;
  }
  .job {
    display: grid;
    grid-template-columns: 200px minmax(0, 1fr) auto;
    gap: 16px;
    align-items: center;
  }
  .job .soft::first-letter {
    text-transform: uppercase;
  }
  .failed {
    color: var(--clay);
  }
  h3 {
    margin-bottom: 6px;
    font-size: 16px;
    font-weight: 700;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 4px 18px;
    align-items: center;
    min-height: 44px;
    border-top: 1px solid var(--rule);
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .acts {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  video {
    grid-column: 1 / -1;
    max-height: 46vh;
    margin-bottom: 12px;
    background: var(--screen);
  }
  .gone {
    grid-template-columns: minmax(0, 1fr) auto;
  }
</style>
