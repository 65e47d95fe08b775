<script lang="ts">
  import { onMount } from 'svelte';
  import { changedCues, changesSince, type ChangedCue, type ChangesSince } from '$lib/core/compare';
  import { findFormat } from '$lib/core/formats';
  import { contentOf, type HandedOverVersion } from '$lib/core/handed-over';
  import { messageOf } from '$lib/core/message-of';
  import type { Track } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  /** What of the track has left the house, and what is otherwise now. */
  const desk = useTrackDesk();
  const { session } = desk;
  const words = phrases.handedOver;
  let versions = $state.raw<readonly HandedOverVersion[] | null>(null);
  /** As it was when it was handed over last. */
  let before = $state.raw<Track | null>(null);
  let failure = $state<string | null>(null);
  let found = $state.raw<{ since: ChangesSince; cues: readonly ChangedCue[]; hasChanged: boolean } | null>(null);
  let chosen = $state(-1);

  async function load(): Promise<void> {
    try {
      failure = null;
      versions = await api.handedOver(session.trackId);
      const [last] = versions;
      if (last !== undefined) before = await api.trackAt(session.trackId, last.revision);
    } catch (error) {
      failure = messageOf(error);
    }
  }
  onMount(() => void load());

  /** Two whole tracks are compared, so only when the browser is idle. */
  $effect(() => {
    const [old, now] = [before, desk.track];
    if (old === null) return;
    const asked = requestIdleCallback(
      () =>
        (found = {
          since: changesSince(old, now),
          cues: changedCues(old, now),
          hasChanged: contentOf(old) !== contentOf(now)
        }),
      { timeout: 1500 }
    );
    return () => cancelIdleCallback(asked);
  });

  const formatName = (id: string): string => findFormat(id)?.name ?? id.toUpperCase();
  const whenOf = (ms: number): string =>
    new Date(ms).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
  const plain = (lines: readonly string[]): string => lines.join(' ').replaceAll(/<\/?[biu]>/g, '');

  function choose(at: number): void {
    const { now, before: old } = found!.cues[at]!;
    chosen = at;
    if (now !== null) desk.chooseCue(now.cue, { seek: true });
    else desk.seek(old!.cue.startMs);
  }
</script>

<div class="handed">
  {#if failure !== null}
    <p class="failed" role="alert">
      {failure} <button class="act quiet" onclick={() => void load()}>{words.tryAgain}</button>
    </p>
  {:else if versions === null}
    <p class="soft" role="status">{words.loading}</p>
  {:else if versions.length === 0}
    <p class="soft none">{words.none}</p>
  {:else}
    {@const last = versions[0]!}
    <section class="since" aria-label={words.since(last.version)}>
      {#if found === null}
        <p class="soft" role="status">{words.comparing}</p>
      {:else if !found.hasChanged}
        <p data-testid="since-handed-over"><strong>{words.asItIs(last.version)}</strong></p>
      {:else}
        {@const { cues } = found}
        <p data-testid="since-handed-over">
          <strong>{words.changed(last.version)}</strong>
          <span class="soft">{words.what(found.since)}</span>
        </p>
        <LongList
          label={words.since(last.version)}
          count={cues.length}
          at={chosen}
          startMsOf={(at: number) => (cues[at]!.now ?? cues[at]!.before!).cue.startMs}
          onChoose={choose}
        >
          {#snippet text(at: number)}
            {@const { before: old, now } = cues[at]!}
            {@const [was, is] = [old === null ? null : plain(old.lines), now === null ? null : plain(now.lines)]}
            {#if was !== null && was === is}
              {is} <span class="soft">{words.timed}</span>
            {:else}
              {#if was !== null}<del>{was}</del>{/if}
              {#if is !== null}<ins>{is}</ins>{/if}
            {/if}
          {/snippet}
        </LongList>
        <p class="soft">{words.next(last.version + 1)}</p>
      {/if}
    </section>
    {#each versions as { version, files } (version)}
      <section aria-label={words.version(version)}>
        <h3>{words.version(version)}</h3>
        <ul>
          {#each files as { name, format, bytes, sha256, atMs } (`${name} ${sha256}`)}
            <li>
              <span class="name mono" title={name}>{name}</span>
              <span class="soft">{words.facts(formatName(format), bytes, whenOf(atMs))}</span>
              <span class="mono soft hash" title={words.hash(sha256)}>{sha256.slice(0, 12)}</span>
            </li>
          {/each}
        </ul>
      </section>
    {/each}
  {/if}
</div>

<style>
  .handed {
    display: grid;
    gap: 22px;
    align-content: start;
    padding-bottom: 24px;
  }
  .since {
    display: grid;
    gap: 8px;
  }
  .since p strong {
    margin-right: 8px;
  }
  h3 {
    padding-bottom: 4px;
    font-size: 16px;
    font-weight: 700;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto 110px;
    gap: 4px 18px;
    align-items: center;
    min-height: 36px;
    border-top: 1px solid var(--rule);
    font-size: 15px;
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .hash {
    font-size: 13px;
    text-align: right;
  }
</style>
