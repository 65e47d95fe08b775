<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { ASPECTS, type Aspect, type Container, type RenderRequest } from '$lib/core/rendering';
  import { formatClock, wholeMs } from '$lib/core/time';
  import { CUT_LIST_FORMATS, cutListRemarks } from '$lib/core/trims';
  import { frameRateOf, USUAL_OPTIONS } from '$lib/core/formats';
  import { api, type Render } from '$lib/client/api';
  import { Renders } from '$lib/client/renders.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases as dress } from '../dress/phrases';
  import FileLink from '../frame/FileLink.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { phrases } from './phrases';

  /** The trim as sound, as video, as a cut list, or as a recording of its own. */
  const desk = useTrackDesk();
  const { trimming, recording, session } = desk;
  const words = phrases.away;
  const renders = new Renders(recording.id);
  onMount(() => renders.follow((error) => desk.say(messageOf(error))));

  const SOUNDS: readonly Container[] = ['wav', 'flac', 'm4a', 'mp3'];
  const VIDEOS: readonly Container[] = ['mp4', 'mov', 'mkv', 'webm'];
  let kind = $state<'sound' | 'video' | 'list'>(recording.media.hasVideo ? 'video' : 'sound');
  let sound = $state<Container>('wav');
  let video = $state<Container>('mp4');
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

  async function make(): Promise<void> {
    const trim = trimming.session;
    if (trim === null) return;
    try {
      await Promise.all([trim.saved(), session.saved()]);
      const request: RenderRequest = {
        ...{ trimId: trim.id, container: kind === 'sound' ? sound : video },
        captions: kind === 'sound' ? 'none' : captions,
        ...(kind === 'video' && captions !== 'none' && { trackId: session.trackId }),
        ...(kind === 'video' && { video: { codec: video === 'webm' ? 'vp9' : 'h264', aspect } }),
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
        <select class="field" bind:value={video}>
          {#each VIDEOS as one (one)}<option value={one}>{one.toUpperCase()}</option>{/each}
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
    {#if kind === 'video'}<p class="soft small">{words.exact}</p>{/if}
    <p><button class="act filled" onclick={() => void make()}>{words.render}</button></p>
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
  .small {
    font-size: 14px;
  }
  .name {
    overflow-wrap: anywhere;
    font-weight: 600;
  }
</style>
