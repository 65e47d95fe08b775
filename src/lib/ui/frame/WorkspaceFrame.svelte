<script lang="ts">
  import { goto } from '$app/navigation';
  import { onMount, type Snippet } from 'svelte';
  import { api, type Recording } from '$lib/client/api';
  import type { CommandId, Place } from '$lib/client/keys/commands';
  import { listenToServer } from '$lib/client/events';
  import { REPAIRS, type Repair } from '$lib/core/wording';
  import { messageOf } from '$lib/core/message-of';
  import { listenToKeys, untilReleased } from '$lib/client/keys/keyboard';
  import { preferences } from '$lib/client/preferences.svelte';
  import { TrackSession } from '$lib/client/session/track-session.svelte';
  import { provideWorkspace, Workspace } from '$lib/client/workspace.svelte';
  import Workbench from './Workbench.svelte';
  import TopBar from './TopBar.svelte';

  interface Props {
    recordingId: string;
    trackId: string;
    place: Place;
    children: Snippet;
  }
  let { recordingId, trackId, place, children }: Props = $props();
  let workspace = $state.raw<Workspace | null>(null);
  let failure = $state<string | null>(null);
  let areKeysOpen = $state(false);

  provideWorkspace(() => {
    if (workspace === null) throw new Error('the workspace is not open yet');
    return workspace;
  });

  onMount(() => {
    let isGone = false;
    let opened: Workspace | undefined;
    const open = async (): Promise<void> => {
      try {
        const [recording, session] = await Promise.all([api.recording(recordingId), TrackSession.open(trackId)]);
        if (isGone) return session.close();
        opened = new Workspace(recording, session);
        opened.cueId = session.track.cues[0]?.id ?? null;
        workspace = opened;
        const job = recording.jobId === undefined ? null : await api.job(recording.jobId);
        if (job !== null) opened.hearOf(job);
        await Promise.all([opened.loadProposals(), opened.remarks.load(), loadSound(recording, opened)]);
      } catch (error) {
        failure = messageOf(error);
      }
    };
    void open();
    const stopKeys = listenToKeys({ place: () => place, singleLetters: () => preferences.singleLetters, run });
    const stopListening = listenToServer({
      onJob: (job) => opened?.hearOf(job),
      onReconnect: () => {
        if (opened?.soundFailure != null) void loadSound(opened.recording, opened);
      }
    });
    return () => {
      isGone = true;
      stopListening();
      stopKeys();
      opened?.session.close();
    };
  });

  async function loadSound(recording: Recording, into: Workspace): Promise<void> {
    try {
      const [levels, speech] = await Promise.all([api.levels(recording.id), api.speech(recording.id)]);
      into.sound = { levels, speech };
      into.soundFailure = null;
      if (recording.media.hasVideo) into.shotsMs = await api.shots(recording.id);
    } catch (error) {
      into.soundFailure = `The waveform cannot be shown: ${messageOf(error)}`;
    }
  }

  const ZOOMS = [4000, 5000, 6000, 8000, 10_000, 12_000, 15_000, 20_000, 25_000, 30_000, 40_000];

  function zoom(by: 1 | -1): void {
    const at = ZOOMS.findIndex((rowMs) => rowMs >= preferences.rowMs);
    preferences.set({ rowMs: ZOOMS[Math.min(ZOOMS.length - 1, Math.max(0, at + by))]! });
  }

  function showKeys(isOpen: boolean): void {
    areKeysOpen = isOpen;
  }

  function go(to: Place): boolean {
    workspace?.session.flush();
    void goto(to === 'hear' ? `/recordings/${recordingId}/hear` : `/recordings/${recordingId}/tracks/${trackId}/${to}`);
    return true;
  }

  /** Commands that leave text being typed as it is. */
  const PLAYING: ReadonlySet<CommandId> = new Set(['play', 'back', 'ahead', 'loop', 'slower', 'faster']);
  const repairs = (at: Workspace) =>
    Object.fromEntries(REPAIRS.map((repair) => [repair, () => at.page.repair(repair)])) as Record<Repair, () => void>;
  type Take = Extract<CommandId, `take${number}`>;
  const takes = (at: Workspace) =>
    Object.fromEntries(
      Array.from({ length: 9 }, (_, index) => [`take${index + 1}`, () => take(at, index + 1)])
    ) as Record<Take, () => void>;

  /** Of the sound in hand, else of the doubt. */
  function take(at: Workspace, number: number): void {
    if (at.untold.current !== null) at.untold.take(number);
    else if (place === 'read') at.doubts.take(number);
  }

  function stepSound(at: Workspace): void {
    preferences.set({ timePanel: 'cue' });
    at.doubts.leave();
    at.untold.step(1);
  }

  function stepDoubt(at: Workspace, by: 1 | -1): void {
    preferences.set({ readPanel: 'doubts' });
    at.untold.leave();
    at.doubts.step(by);
  }

  function stepRemark(at: Workspace, by: 1 | -1): void {
    if (at.remarks.list.length > 0) preferences.set({ timePanel: 'cut' });
    at.remarks.step(by);
  }

  /** The one behind it in the list, around its end. */
  const after = <T,>(list: readonly T[], one: T): T => list[(list.indexOf(one) + 1) % list.length]!;

  /** Until the key comes up. */
  function hold(at: Workspace): void {
    if (at.cues.isHeld) return;
    at.cues.holdStart();
    untilReleased({ released: () => at.cues.holdEnd(), lost: () => at.cues.holdLost() });
  }

  /** Does what a command says; false leaves the key to the browser. */
  function run(id: CommandId): boolean {
    const at = workspace;
    if (at === null) return false;
    const { player, cue } = at;
    // Text in hand goes into the track first, so that a command finds it there.
    if (!PLAYING.has(id)) at.session.flush();
    const actions: Record<CommandId, () => unknown> = {
      ...repairs(at),
      ...takes(at),
      play: () => at.togglePlay(),
      back: () => player.skip(-2000),
      ahead: () => player.skip(2000),
      loop: () => at.toggleLoop(),
      loopSentence: () => at.loopSentence(),
      slower: () => player.setRate(player.rate - 0.1),
      faster: () => player.setRate(player.rate + 0.1),
      enter: () => at.surface?.enter(),
      leave: () => {
        if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
        at.surface?.focus();
      },
      nextCue: () => at.stepCue(1),
      previousCue: () => at.stepCue(-1),
      rowDown: () => at.surface?.stepRow?.(1),
      rowUp: () => at.surface?.stepRow?.(-1),
      nextWord: () => at.stepWord(1),
      previousWord: () => at.stepWord(-1),
      closer: () => zoom(-1),
      wider: () => zoom(1),
      split: () => at.cues.split(),
      merge: () => at.cues.merge(1),
      mergeBack: () => at.cues.merge(-1),
      pull: () => at.cues.moveBorder('pull'),
      push: () => at.cues.moveBorder('push'),
      breakLine: () => at.cues.breakLine(),
      balance: () => at.cues.balance(),
      add: () => {
        if (at.cues.add() !== null) at.surface?.enter();
      },
      remove: () => at.cues.remove(),
      extend: () => at.cues.extend(1),
      extendLess: () => at.cues.extend(-1),
      chooseAll: () => at.cues.chooseAll(),
      lock: () => at.cues.toggleLock(),
      hold: () => hold(at),
      ripple: () => {
        preferences.set({ ripple: !preferences.ripple });
        at.say(preferences.ripple ? 'What follows moves along.' : 'What follows stays.');
      },
      takeTrial: () => at.trial.take(),
      leaveTrial: () => {
        at.untold.leave();
        at.trial.leave();
      },
      nextFinding: () => at.cues.stepTo('finding', 1),
      previousFinding: () => at.cues.stepTo('finding', -1),
      nextBookmark: () => at.cues.stepTo('bookmark', 1),
      previousBookmark: () => at.cues.stepTo('bookmark', -1),
      nextGap: () => at.cues.stepTo('gap', 1),
      previousGap: () => at.cues.stepTo('gap', -1),
      nextSound: () => stepSound(at),
      nextRemark: () => stepRemark(at, 1),
      previousRemark: () => stepRemark(at, -1),
      nextShot: () => at.cues.stepTo('shot', 1),
      previousShot: () => at.cues.stepTo('shot', -1),
      view: () => preferences.set({ timeView: after(['trellis', 'table', 'both'], preferences.timeView) }),
      timesAs: () => preferences.set({ timesAs: after(['clock', 'frames'], preferences.timesAs) }),
      soundView: () => preferences.set({ soundView: after(['wave', 'spectrum', 'both'], preferences.soundView) }),
      beginEarlier: () => at.page.moveBoundary(-1),
      beginLater: () => at.page.moveBoundary(1),
      nextSpeaker: () => at.page.giveToNextSpeaker(),
      describeSound: () => (at.describingMs = player.nowMs),
      nextDoubt: () => stepDoubt(at, 1),
      previousDoubt: () => stepDoubt(at, -1),
      keepDoubt: () => at.doubts.keep(),
      reconsiderDoubt: () => at.doubts.reconsider(),
      repeatDoubt: () => at.doubts.repeat(),
      doubtToVocabulary: () => void at.doubts.addToVocabulary(),
      find: () => {
        preferences.set({ readPanel: 'find' });
        at.finder.isAsked = true;
      },
      hearAgain: () => at.again.ask(),
      bookmark: () => cue !== null && at.edit([{ type: 'annotateCue', cueId: cue.id, bookmark: !cue.bookmark }]),
      startHere: () => at.cues.setEdge('start', player.nowMs),
      endHere: () => at.cues.setEdge('end', player.nowMs),
      startEarlier: () => at.cues.nudgeEdge('start', -1),
      startLater: () => at.cues.nudgeEdge('start', 1),
      endEarlier: () => at.cues.nudgeEdge('end', -1),
      endLater: () => at.cues.nudgeEdge('end', 1),
      moveEarlier: () => at.cues.nudge(-1),
      moveLater: () => at.cues.nudge(1),
      undo: () => at.undo(),
      redo: () => at.redo(),
      keys: () => showKeys(true),
      goHear: () => go('hear'),
      goRead: () => go('read'),
      goTime: () => go('time'),
      goDress: () => go('dress'),
      goHandOver: () => go('hand-over')
    };
    actions[id]();
    return true;
  }
</script>

{#if workspace !== null}
  {#key workspace}
    <Workbench {place} onCommand={run} {areKeysOpen} onKeys={showKeys} {children} />
  {/key}
{:else}
  <TopBar title="Vine Tap" />
  <main>
    {#if failure}
      <p role="alert">{failure}</p>
      <a class="act" href="/">All recordings</a>
    {:else}
      <p class="soft">Opening the track…</p>
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
