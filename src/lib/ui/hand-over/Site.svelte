<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { siteLanguage } from '$lib/core/publishing';
  import { formatClock } from '$lib/core/time';
  import { languageName } from '$lib/core/track';
  import type { Publication, SiteCaption } from '$lib/client/api';
  import { isUnfinished } from '$lib/client/is-unfinished';
  import { Publishing } from '$lib/client/publishing.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { phrases } from './phrases';

  /** The video site: what stands there, this track among it, and its page as viewers have it. */
  const desk = useTrackDesk();
  const { recording, session } = desk;
  const words = phrases.site;
  const publishing = new Publishing(recording.id);
  onMount(() => publishing.follow());

  const channel = $derived(publishing.site?.channel ?? null);
  const video = $derived(publishing.on?.video ?? null);
  const ours = $derived((publishing.on?.publications ?? []).filter(({ trackId }) => trackId === session.trackId));
  const current = $derived(
    ours.find(({ captionId }) => video?.captions.some(({ id, state }) => id === captionId && state === 'published')) ??
      null
  );
  let saidLanguage = $state<string | null>(null);
  let saidName = $state<string | null>(null);
  let isDefault = $state(true);
  const language = $derived(
    saidLanguage ?? siteLanguage(desk.track.language, channel?.languages ?? []) ?? desk.track.language
  );
  const isOffered = $derived(channel?.languages.includes(language) === true);
  const name = $derived(saidName ?? languageName(language));
  const isBusy = $derived(publishing.job !== null && isUnfinished(publishing.job));

  async function act(work: () => Promise<void>, said?: string): Promise<void> {
    try {
      await work();
      if (said !== undefined) desk.say(said);
    } catch (error) {
      desk.say(messageOf(error));
    }
  }

  const send = (isDraft: boolean, publicationId?: string): Promise<void> =>
    act(async () => {
      // The file is the server's work: what is still on its way there goes first.
      session.flush();
      await session.saved();
      await publishing.publish({
        ...{ trackId: session.trackId, videoId: video!.id, language, name: name.trim(), isDefault, isDraft },
        ...(publicationId !== undefined && { publicationId })
      });
    });

  $effect(() => {
    const [id] = [current?.id, publishing.shownCount];
    if (id !== undefined) void act(() => publishing.compare(id));
  });
  const compared = $derived(
    current !== null && publishing.compared?.id === current.id ? publishing.compared.found : null
  );

  const ofUs = (caption: SiteCaption): Publication | undefined =>
    publishing.on?.publications.find(({ captionId }) => captionId === caption.id);
  const whenOf = (ms: number): string =>
    new Date(ms).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
  const MOST_TOLD = 50;
</script>

{#snippet caption(one: SiteCaption)}
  {@const publication = ofUs(one)}
  <li>
    <span
      ><strong>{one.name}</strong>
      <span class="soft"
        >{[
          one.language,
          ...(publication === undefined ? [] : [words.oursVersion(publication.version)]),
          ...(one.isDefault ? [words.byItself] : [])
        ].join(', ')}</span
      ></span
    >
    <span class="state {one.state}">{words.states[one.state]}</span>
    <span class="acts">
      {#if (one.state === 'published' || one.state === 'automatic') && !one.isDefault}
        <button
          class="act quiet"
          aria-label="{words.makeDefault}: {one.name}"
          onclick={() => void act(() => publishing.setDefault(one.id, true), words.madeDefault(one.name))}
          >{words.makeDefault}</button
        >
      {/if}
      {#if one.state === 'published' || one.state === 'automatic'}
        <button
          class="act quiet"
          aria-label="{words.takeDown}: {one.name}"
          onclick={() => void act(() => publishing.setState(one.id, 'draft'), words.tookDown(one.name))}
          >{words.takeDown}</button
        >
      {:else if one.state === 'draft' || one.state === 'replaced'}
        <button
          class="act quiet"
          aria-label="{words.publish}: {one.name}"
          onclick={() => void act(() => publishing.setState(one.id, 'published'), words.published(one.name))}
          >{words.publish}</button
        >
        {#if publication !== undefined}
          <button
            class="act quiet"
            aria-label="{words.remove}: {one.name}"
            onclick={() => void act(() => publishing.remove(one.id), words.removed(one.name))}>{words.remove}</button
          >
        {/if}
      {/if}
    </span>
  </li>
{/snippet}

<div class="site">
  {#if publishing.failure !== null}
    <p class="failed" role="alert">
      {publishing.failure} <button class="act quiet" onclick={() => void publishing.load()}>{words.tryAgain}</button>
    </p>
  {/if}
  {#if publishing.site === null || publishing.on === null}
    {#if publishing.failure === null}<p class="soft" role="status">{words.loading}</p>{/if}
  {:else}
    <label class="which"
      >{words.shownAs(publishing.site.channel.name)}
      <select
        class="field"
        data-testid="site-video"
        value={video?.id ?? ''}
        onchange={(event) => void act(() => publishing.choose(event.currentTarget.value || null))}
      >
        <option value="">{words.noVideo}</option>
        {#each publishing.site.videos as one (one.id)}
          <option value={one.id}>{one.title}, {formatClock(one.durationMs)}</option>
        {/each}
      </select></label
    >
    {#if video === null}
      <p class="soft">{words.choose}</p>
    {:else}
      {#if Math.abs(video.durationMs - recording.durationMs) > 1000}
        <p class="failed">{words.otherLength(formatClock(video.durationMs), formatClock(recording.durationMs))}</p>
      {/if}
      <div class="halves">
        <div class="half">
          <section aria-label={words.there}>
            <h3>{words.there}</h3>
            <ul data-testid="site-captions">
              {#each video.captions as one (one.id)}{@render caption(one)}{:else}<li class="soft">
                  {words.nothingThere}
                </li>{/each}
            </ul>
          </section>
          <section aria-label={words.thisTrack}>
            <h3>{words.thisTrack}</h3>
            <form
              onsubmit={(event) => {
                event.preventDefault();
                void send(false);
              }}
            >
              <label
                >{words.language}
                <select
                  class="field"
                  data-testid="site-language"
                  value={language}
                  onchange={(event) => (saidLanguage = event.currentTarget.value)}
                >
                  {#if !isOffered}<option value={language} disabled>{languageName(language)}</option>{/if}
                  {#each publishing.site.channel.languages as tag (tag)}
                    <option value={tag}>{languageName(tag)}</option>
                  {/each}
                </select></label
              >
              <label
                >{words.name}
                <input
                  class="field"
                  data-testid="site-name"
                  value={name}
                  maxlength="100"
                  autocomplete="off"
                  oninput={(event) => (saidName = event.currentTarget.value)}
                /></label
              >
              <label class="check"><input type="checkbox" bind:checked={isDefault} /> {words.default}</label>
              {#if !isOffered}<p class="failed">{words.notOffered(languageName(language))}</p>{/if}
              <p class="go">
                <button class="act filled" disabled={isBusy || !isOffered || name.trim() === ''}
                  >{current === null ? words.publish : words.replace}</button
                >
                <button
                  type="button"
                  class="act"
                  disabled={isBusy || !isOffered || name.trim() === ''}
                  onclick={() => void send(true)}>{words.sendDraft}</button
                >
              </p>
            </form>
            {#if publishing.job !== null}
              {#if isBusy}
                <div class="job" role="status">
                  <ProgressBar label={words.publishing} progress={publishing.job.progress} />
                  <span class="soft">{publishing.job.stage}</span>
                  <button class="act" onclick={() => void act(() => publishing.cancel())}>{words.cancel}</button>
                </div>
              {:else}
                <p class="failed" role="alert" data-testid="site-refused">{publishing.job.error}</p>
              {/if}
            {/if}
            {#if ours.length > 0}
              <h4>{words.sentBefore}</h4>
              <ul>
                {#each ours as one (one.id)}
                  <li>
                    <span
                      >{words.version(one.version)}
                      <span class="soft">{[one.name, whenOf(one.publishedAtMs)].join(', ')}</span></span
                    >
                    {#if one === current}<span class="state published">{words.shownNow}</span>{:else}
                      <button
                        class="act quiet"
                        disabled={isBusy}
                        aria-label={words.backTo(one.version)}
                        onclick={() => void send(false, one.id)}>{words.again}</button
                      >
                    {/if}
                  </li>
                {/each}
              </ul>
            {/if}
          </section>
        </div>
        <section class="half" aria-label={words.viewers}>
          <h3>{words.viewers}</h3>
          {#key publishing.shownCount}
            <iframe
              src={video.watchUrl}
              title={words.page(video.title)}
              sandbox="allow-scripts allow-same-origin"
              data-testid="site-page"
            ></iframe>
          {/key}
          {#if compared !== null}
            <p data-testid="site-compared">
              {#if compared.otherwise.length === 0}
                <strong>{words.allShown(compared.cues)}</strong>
              {:else}
                <strong class="failed">{words.otherwise(compared.otherwise.length, compared.cues)}</strong>
              {/if}
            </p>
            <ul class="otherwise">
              {#each compared.otherwise.slice(0, MOST_TOLD) as { handedOver, shown } (`${handedOver?.startMs} ${shown?.startMs}`)}
                <li>
                  <span class="mono soft">{formatClock((handedOver ?? shown!).startMs)}</span>
                  <span
                    ><del>{handedOver?.lines.join(' ') ?? words.notHandedOver}</del>
                    <ins>{shown?.lines.join(' ') ?? words.notShown}</ins></span
                  >
                </li>
              {/each}
            </ul>
          {/if}
        </section>
      </div>
    {/if}
  {/if}
</div>

<style>
  .site {
    display: grid;
    gap: 18px;
    align-content: start;
    padding-bottom: 24px;
  }
  .which {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 12px;
    align-items: center;
  }
  .halves {
    display: grid;
    grid-template-columns: minmax(320px, 1fr) minmax(320px, 1fr);
    gap: 28px;
  }
  .half,
  .half section,
  form {
    display: grid;
    gap: 10px;
    align-content: start;
    min-width: 0;
  }
  .half {
    gap: 22px;
  }
  section.half {
    gap: 10px;
  }
  h3 {
    font-size: 16px;
    font-weight: 700;
  }
  h4 {
    margin-top: 6px;
    font-weight: 700;
  }
  ul {
    font-size: 15px;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 12px;
    min-height: 38px;
    border-top: 1px solid var(--rule);
  }
  li > :first-child {
    flex: 1 1 auto;
  }
  .acts {
    display: flex;
    margin-left: auto;
  }
  .state {
    font-size: 13px;
  }
  .state.published,
  .state.automatic {
    color: var(--leaf);
    font-weight: 700;
  }
  .state.refused {
    color: var(--clay);
    font-weight: 700;
  }
  form label:not(.check) {
    display: grid;
    grid-template-columns: 84px minmax(0, 1fr);
    align-items: center;
  }
  .check {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  .go {
    display: flex;
    gap: 10px;
  }
  .job {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 6px 12px;
    align-items: center;
  }
  .job .soft {
    grid-row: 2;
  }
  iframe {
    width: 100%;
    aspect-ratio: 1 / 0.78;
    border: 0;
    border-radius: 8px;
    background: var(--screen);
  }
  .otherwise li {
    flex-wrap: nowrap;
    align-items: baseline;
    padding: 4px 0;
  }
  .otherwise li > :first-child {
    flex: 0 0 auto;
  }
</style>
