<script lang="ts">
  import { changesSince, draftErrors, type DraftErrors, type ChangesSince } from '$lib/core/compare';
  import { messageOf } from '$lib/core/message-of';
  import type { Track } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ErrorChart from '../frame/ErrorChart.svelte';
  import Figure from './Figure.svelte';
  import { phrases } from './phrases';

  /** What the work on the track came to. */
  const desk = useTrackDesk();
  const words = phrases.figures;
  let draft = $state.raw<Track | null>(null);
  let failure = $state<string | null>(null);
  let found = $state.raw<{ since: ChangesSince; byTime: DraftErrors['byTime'] } | null>(null);

  async function load(): Promise<void> {
    const { trackId } = desk.session;
    try {
      const [first] = await api.versions(trackId);
      if (first !== undefined) draft = await api.versionTrack(trackId, first.id);
    } catch (error) {
      failure = messageOf(error);
    }
  }
  void load();

  /** Two whole tracks are compared, so only when the browser is idle. */
  $effect(() => {
    const [before, after] = [draft, desk.track];
    if (before === null) return;
    const stretchMs = Math.max(10_000, Math.ceil(desk.recording.durationMs / 24 / 10_000) * 10_000);
    const asked = requestIdleCallback(
      () => {
        const { byTime } = draftErrors(before, after, { stretchMs });
        found = { since: changesSince(before, after), byTime };
      },
      { timeout: 1500 }
    );
    return () => cancelIdleCallback(asked);
  });
</script>

<div data-testid="since-draft">
  <Figure title={words.sinceDraft} about={found === null ? words.comparing : words.draft(found.since)} {failure}>
    {#if found !== null}<ErrorChart stretches={found.byTime} onChoose={(startMs: number) => desk.seek(startMs)} />{/if}
  </Figure>
</div>
