<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { goto } from '$app/navigation';
  import { onMount, type Snippet } from 'svelte';
  import { api, type Recording } from '$lib/client/api';
  import type { Track } from '$lib/core/track';
  import { COMMANDS, type CommandId, type Place } from '$lib/client/keys/commands';
  import type { PLACE_PARTS } from '../places';
  import { listenToServer } from '$lib/client/events';
  import { messageOf } from '$lib/core/message-of';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { listenToKeys } from '$lib/client/keys/keyboard';
  import { TrackSession } from '$lib/client/session/track-session.svelte';
  import { RecordingView } from '$lib/client/recording-view.svelte';
  import { provideTrackDesk, TrackDesk } from '$lib/client/track-desk.svelte';
  import Workbench from './Workbench.svelte';
  import TopBar from './TopBar.svelte';
  import { phrases } from './phrases';

  interface Props {
    recordingId: string;
    trackId: TrackId;
    place: keyof typeof PLACE_PARTS;
    children: Snippet;
  }
  let { recordingId, trackId, place, children }: Props = $props();
  let desk = $state.raw<TrackDesk | null>(null);
  let failure = $state<string | null>(null);
  let areKeysOpen = $state(false);

  provideTrackDesk(() => {
    if (desk === null) throw new Error('the desk is not open yet');
    return desk;
  });

  onMount(() => {
    let isGone = false;
    let opened: TrackDesk | undefined;
    const open = async (): Promise<void> => {
      try {
        const asked = api.recording(recordingId);
        // A translation is worked on beside its source: both come at once.
        const sourceAsked = place === 'translate' ? asked.then(sourceOf) : undefined;
        const [recording, session] = await Promise.all([asked, TrackSession.open(trackId)]);
        if (isGone) return session.close();
        opened = new TrackDesk(new RecordingView(recording), session);
        opened.translating.expect(sourceAsked);
        opened.cueId = session.track.cues[0]?.id ?? null;
        desk = opened;
        const job = recording.jobId === undefined ? null : await api.job(recording.jobId);
        if (job !== null) opened.hearOf(job);
        await Promise.all([opened.loadProposals(), opened.remarks.load(), opened.on.load(), opened.on.loadEngines()]);
      } catch (error) {
        failure = messageOf(error);
      }
    };
    void open();
    const stopKeys = listenToKeys({ place: () => place, run });
    const stopListening = listenToServer({
      onJob: (job) => opened?.hearOf(job),
      onReconnect: () => {
        fonts.retry();
        if (opened !== undefined && opened.on.soundFailure !== null) void opened.on.load();
      }
    });
    return () => {
      isGone = true;
      stopListening();
      stopKeys();
      opened?.close();
    };
  });

  /** The source of the track as it is now; `null` where it has none, or it does not come. */
  async function sourceOf({ tracks }: Recording): Promise<Track | null> {
    const sourceTrackId = tracks.find(({ id }) => id === trackId)?.sourceTrackId;
    if (sourceTrackId === undefined) return null;
    // Whoever needs it asks again, and tells why.
    return api.document(sourceTrackId).then(
      ({ track }) => track,
      () => null
    );
  }

  function showKeys(isOpen: boolean): void {
    areKeysOpen = isOpen;
  }

  function go(to: Place): boolean {
    desk?.session.flush();
    void goto(to === 'hear' ? `/recordings/${recordingId}/hear` : `/recordings/${recordingId}/tracks/${trackId}/${to}`);
    return true;
  }

  /** Does what a command says; false leaves the key to the browser. */
  function run(id: CommandId): boolean {
    const at = desk;
    const command = COMMANDS.find((one) => one.id === id);
    if (at === null || command === undefined) return false;
    if (command.leavesText !== true) at.session.flush();
    const context = { desk: at, place, go, showKeys: () => showKeys(true) };
    at.opposites.run(command, () => command.run(context));
    return true;
  }
</script>

{#if desk !== null}
  {#key desk}
    <Workbench {place} onCommand={run} {areKeysOpen} onKeys={showKeys} {children} />
  {/key}
{:else}
  <TopBar title={phrases.trackFrame.vineTap} />
  <main>
    {#if failure}
      <p role="alert">{failure}</p>
      <a class="act" href="/">{phrases.trackFrame.allRecordings}</a>
    {:else}
      <p class="soft">{phrases.trackFrame.openingTheTrack}</p>
    {/if}
  </main>
{/if}

<style>
  main {
    display: grid;
    justify-items: start;
    gap: 12px;
    padding: 60px;
  }
</style>
