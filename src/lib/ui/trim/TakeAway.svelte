<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { ASPECTS, type Aspect, type Container, type RenderRequest, type VideoCodec } from '$lib/core/rendering';
  import { formatClock, wholeMs } from '$lib/core/time';
  import { CUT_LIST_FORMATS, cutListRemarks } from '$lib/core/trims';
  import { frameRateOf, USUAL_OPTIONS } from '$lib/core/formats';
  import { api, type Copying, type Render } from '$lib/client/api';
  import { whenHandsRest } from '$lib/client/rest';
  import { Renders } from '$lib/client/renders.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases as dress } from '../dress/phrases';
  import FileLink from '../frame/FileLink.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { phrases as handOver } from '../hand-over/phrases';
  import { phrases } from './phrases';

  /** The trim as sound, as video, as a cut list, or as a recording of its own. */
  const desk = useTrackDesk();
  const { trimming, recording, session } = desk;
  const words = phrases.away;
  const renders = new Renders(recording.id);
  onMount(() => renders.follow((error) => desk.say(messageOf(error))));

  const SOUNDS: readonly Container[] = ['wav', 'flac', 'm4a', 'mp3'];
  let kind = $state<'sound' | 'video' | 'list'>(recording.media.hasVideo ? 'video' : 'sound');
  let sound = $state<Container>('wav');
  let format = $state('mp4 h264');
  let quality = $state(60);
  let isFast = $state(false);
  /** What copying would come to, or why it cannot be done; `null` until that is known. */
  let copying = $state.raw<Copying | string | null>(null);
  let captions = $state<RenderRequest['captions']>('burned');
  let aspect = $state<Aspect>('as is');
  let isPassage = $state(false);
  let list = $state<(typeof CUT_LIST_FORMATS)[number]>('otio');
  let brought = $state.raw<Readonly<Record<string, string>>>({});

  const passage = $derived.by(() => {
    const { choice, map } = trimming;
    const [first] = choice?.spans ?? [];
    const last = choice?.spans.at(-1);
    const fromMs = first === undefined ? undefined : map?.trimmedAt(first.fromMs)[0];
    const toMs = last === undefined ? undefined : map?.trimmedAt(last.toMs - 1).at(-1);
    return fromMs === undefined || toMs === undefined || toMs <= fromMs
      ? null
      : { fromMs: wholeMs(fromMs), toMs: wholeMs(toMs + 1) };
  });
  const isEmpty = $derived((trimming.map?.lengthMs ?? 0) === 0);
  const own = $derived(renders.list.filter(({ trimId }) => trimId !== null));
  const jobs = $derived(renders.jobs);
  const frameRate = frameRateOf(recording.media.frameRate ?? undefined);
  const remarks = $derived(
    trimming.trim === null
      ? []
      : cutListRemarks(trimming.trim, list, {
          ...{ ...USUAL_OPTIONS, frameRate, title: recording.title, track: desk.track },
          ...{ hasPicture: recording.media.hasVideo, channels: recording.media.channels }
        })
  );

  const formats = $derived(
    Object.entries(handOver.video.formats).filter(
      ([id]) => renders.codecs === null || renders.codecs.includes(id.split(' ')[1]!)
    )
  );
  const [video, codec] = $derived(format.split(' ') as [Container, VideoCodec]);
  /** Burnt in, or in another shape, a picture is another one. */
  const canBeFast = $derived(recording.media.hasVideo && captions !== 'burned' && aspect === 'as is');
  const isCopied = $derived(isFast && canBeFast);
  $effect(() => {
    const trim = trimming.session;
    if (!isCopied || trim === null) return;
    void trim.document;
    copying = null;
    let isGone = false;
    const stop = whenHandsRest(() => {
      void trim
        .saved()
        .then(() => api.copying(trim.id))
        .catch(messageOf)
        .then((known) => {
          if (!isGone) copying = known;
        });
    });
    return () => {
      isGone = true;
      stop();
    };
  });

  async function make(): Promise<void> {
    const trim = trimming.session;
    if (trim === null) return;
    try {
      await Promise.all([trim.saved(), session.saved()]);
      const request: RenderRequest = {
        ...{ trimId: trim.id, container: kind === 'sound' ? sound : video },
        captions: kind === 'sound' ? 'none' : captions,
        ...(kind === 'video' && captions !== 'none' && { trackId: session.trackId }),
        ...(kind === 'video' && { video: isCopied ? { codec: 'copy' } : { codec, quality, aspect } }),
        ...(isPassage && passage !== null && passage)
      };
      await renders.start(request);
    } catch (error) {
      desk.say(messageOf(error));
    }
  }
  async function bringIn({ id }: Render): Promise<void> {
    try {
      brought = { ...brought, [id]: await api.bringIn(id) };
      desk.say(words.broughtIn);
    } catch (error) {
      desk.say(messageOf(error));
    }
  }
</script>

<section>
  <div class="row" role="radiogroup" aria-label={words.as}>
    {#each ['sound', 'video', 'list'] as const as one (one)}
      <label><input type="radio" name="away-kind" value={one} bind:group={kind} /> {words.kinds[one]}</label>
    {/each}
  </div>
  {#if isEmpty}
    <p role="alert">{words.nothing}</p>
  {:else if kind === 'list'}
    {#each CUT_LIST_FORMATS as one (one)}
      <label><input type="radio" name="away-list" value={one} bind:group={list} /> {words.lists[one]}</label>
    {/each}
    {#each remarks as remark (remark.code)}<p class="soft small">{remark.message}</p>{/each}
    {#if trimming.session !== null}
      <p>
        <a
          class="act filled"
          href={api.cutListUrl(trimming.session.id, list, { trackId: session.trackId, frameRate })}
          download>{words.take}</a
        >
      </p>
    {/if}
  {:else}
    <label class="pair"
      ><span>{words.as}</span>
      {#if kind === 'sound'}
        <select class="field" bind:value={sound}>
          {#each SOUNDS as one (one)}<option value={one}>{one.toUpperCase()}</option>{/each}
        </select>
      {:else}
        <select class="field" bind:value={format}>
          {#each formats as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      {/if}</label
    >
    {#if kind === 'video'}
      <label class="pair"
        ><span>{words.captions}</span>
        <select class="field" bind:value={captions}>
          {#each ['burned', 'inside', 'none'] as const as one (one)}<option value={one}
              >{words.captionsKinds[one]}</option
            >{/each}
        </select></label
      >
      <label class="pair"
        ><span>{words.shape}</span>
        <select class="field" bind:value={aspect}>
          {#each ASPECTS as one (one)}<option value={one}>{dress.shape.aspects[one]}</option>{/each}
        </select></label
      >
    {/if}
    <label class="pair"
      ><span>{words.what}</span>
      <select class="field" bind:value={isPassage}>
        <option value={false}>{words.whole}</option>
        <option value={true} disabled={passage === null}>{words.passage}</option>
      </select></label
    >
    {#if kind === 'video'}
      <div class="ways" role="radiogroup" aria-label={words.cut}>
        {#each [false, true] as one (one)}
          <label class:soft={one && !canBeFast}
            ><input
              type="radio"
              name="away-cut"
              checked={isCopied === one}
              disabled={one && !canBeFast}
              onchange={() => (isFast = one)}
            />
            {one ? words.fast : words.exact}</label
          >
        {/each}
      </div>
      {#if isCopied}
        <p class="soft small" role={typeof copying === 'string' ? 'alert' : 'status'} data-testid="copying">
          {copying === null ? words.looking : typeof copying === 'string' ? copying : words.copied(copying)}
        </p>
      {:else}
        <label class="pair"
          ><span>{handOver.video.quality}</span>
          <span class="amount"
            ><input class="field mono" type="number" min="1" max="100" bind:value={quality} />
            <span class="soft">{handOver.video.qualityUnit}</span></span
          ></label
        >
      {/if}
    {/if}
    <p>
      <button
        class="act filled"
        disabled={kind === 'video' && isCopied && typeof copying === 'string'}
        onclick={() => void make()}>{words.render}</button
      >
    </p>
  {/if}
</section>
{#if jobs.length > 0 || own.length > 0}
  <section>
    <h3>{words.made}</h3>
    {#each jobs as job (job.id)}
      {#if job.state === 'failed'}
        <p role="alert">{job.error}</p>
      {:else}
        <div class="job">
          <p class="soft">{words.rendering(job.stage)}</p>
          <ProgressBar label={words.rendering(job.stage)} progress={job.progress} />
          <button class="act quiet" onclick={() => void renders.cancel(job.id)}>{words.cancel}</button>
        </div>
      {/if}
    {/each}
    {#each own as render (render.id)}
      <div class="made">
        <p class="name">{render.name} <span class="soft mono">{formatClock(render.durationMs)}</span></p>
        <p class="acts">
          <FileLink href={api.renderUrl(render.id)} isQuiet>{words.download}</FileLink>
          {#if brought[render.id] === undefined}
            <button class="act quiet" onclick={() => void bringIn(render)}>{words.bringIn}</button>
          {:else}
            <a class="act quiet" href="/recordings/{brought[render.id]}/hear">{words.open}</a>
          {/if}
          <button class="act quiet" onclick={() => renders.remove(render)}>{words.remove}</button>
        </p>
      </div>
    {/each}
    {#each renders.gone as render (render.id)}
      <p>
        <span class="soft">{words.deleted}</span>
        <button class="act quiet" onclick={() => renders.bringBack(render)}>{words.bringBack}</button>
      </p>
    {/each}
  </section>
{/if}
<p class="soft small">{words.files}</p>

<style>
  section {
    display: grid;
    gap: 9px;
  }
  section + section {
    padding-top: 14px;
    border-top: 1px solid var(--rule);
  }
  h3 {
    font-weight: 700;
  }
  .row,
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 16px;
  }
  .acts {
    gap: 2px;
  }
  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 190px;
    gap: 8px;
    align-items: center;
  }
  .ways {
    display: grid;
    gap: 4px;
  }
  .amount {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .amount .field {
    width: 80px;
  }
  .small {
    font-size: 14px;
  }
  .name {
    overflow-wrap: anywhere;
    font-weight: 600;
  }
</style>
