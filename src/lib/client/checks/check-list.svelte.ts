/** What is not as it should be in the open track: gone through, mended, or let stand for a reason. */
import { findSounds } from '$lib/core/audio';
import { changesBetween } from '$lib/core/changes';
import { findCheck, isMendedUnseen, type Finding, type Group, type Knowledge, type NotChecked } from '$lib/core/checks';
import { CodedError } from '$lib/core/coded-error';
import type { ClientCommand } from '$lib/core/commands';
import type { TrackId } from '$lib/core/id';
import { hasLargeLetters } from '$lib/core/light';
import { messageOf } from '$lib/core/message-of';
import { lookUp, trackShape, type Track } from '$lib/core/track';
import type { GlossaryTerm } from '$lib/core/translating';
import { api } from '../api';
import { listenToServer } from '../events';
import type { Contrasts } from '../contrast/contrasts.svelte';
import type { DoubtQueue } from '../doubt-queue.svelte';
import { phrases } from '../phrases';
import { stepRound } from '../step-round';
import type { TrackView } from '../track-view.svelte';
import { translateCalls } from '../translate/calls';
import { answerSchema, type Asked } from './messages';

/** After the last change of the track. */
const REST_MS = 150;
/** A usual rate, where a recording has no picture. */
const USUAL_FRAME_MS = 40;

interface Parts {
  readonly doubts: DoubtQueue;
  readonly contrasts: Contrasts;
}

/** What mends findings, and the keys of those that it mends. */
interface Mendings {
  readonly commands: readonly ClientCommand[];
  readonly keys: readonly string[];
}

/** What would mend the finding in hand. */
export interface Proposal {
  readonly key: string;
  /** None where nothing mends it without making something else worse. */
  readonly commands: readonly ClientCommand[];
}

export class CheckList {
  readonly #view: TrackView;
  readonly #parts: Parts;
  findings: readonly Finding[] = $state.raw([]);
  notChecked: readonly NotChecked[] = $state.raw([]);
  state: 'unasked' | 'checking' | 'there' = $state('unasked');
  failure: string | null = $state(null);
  /** Why findings stand, by their keys. */
  accepted: ReadonlyMap<string, string> = $state.raw(new Map());
  group: Group | 'all' = $state('all');
  /** Those that stand are listed, instead of those that are left. */
  showsAccepted = $state(false);
  currentKey: string | null = $state(null);
  proposal: Proposal | null = $state.raw(null);
  /** The reason that was given last: it often fits the next one, too. */
  lastReason = $state('');
  /** How far the mending of many is, 0 to 1; `null` while none is going on. */
  mending: number | null = $state(null);
  /** A reason is being given. */
  isLettingStand = $state(false);
  /** The track that this one translates. */
  #source: Track | null = $state.raw(null);
  /** The house's, into this language. */
  #terms: readonly GlossaryTerm[] = $state.raw([]);
  #letStand: readonly (readonly string[])[] = $state.raw([]);
  /** The one that was shown last, so that it is found again under another key, or the one that follows it. */
  #shown: Finding | null = null;
  #worker: Worker | null = null;
  /** The track, and what is known, as the worker has them. */
  #sent: Track | null = null;
  #known: Knowledge | null = null;
  #asked = 0;
  readonly #waiting = new Map<number, (answer: Mendings) => void>();
  #rest: ReturnType<typeof setTimeout> | undefined;
  /** What was asked last, of which track; which answer came last; who waits for one. */
  #checked: { readonly id: number; readonly track: Track } | null = null;
  #reported = 0;
  #reports: (() => void)[] = [];
  /** What stands, or no longer does, is on its way to the server. */
  #keeping: Promise<unknown> = Promise.resolve();

  constructor(view: TrackView, parts: Parts) {
    this.#view = view;
    this.#parts = parts;
  }

  readonly open: readonly Finding[] = $derived.by(() => this.findings.filter(({ key }) => !this.accepted.has(key)));
  readonly stands: readonly Finding[] = $derived.by(() => this.findings.filter(({ key }) => this.accepted.has(key)));
  readonly listed: readonly Finding[] = $derived.by(() => {
    const all = this.showsAccepted ? this.stands : this.open;
    return this.group === 'all' ? all : all.filter(({ group }) => group === this.group);
  });
  readonly at: number = $derived.by(() => this.listed.findIndex(({ key }) => key === this.currentKey));
  readonly current: Finding | null = $derived.by(() => this.listed[this.at] ?? null);
  /** Of the kind of the one in hand, that can be mended unseen. */
  readonly alike: readonly Finding[] = $derived.by(() => {
    const rule = this.current?.rule;
    return rule === undefined || !isMendedUnseen(rule) ? [] : this.open.filter((one) => one.rule === rule);
  });

  /** All that is known of the recording by now. */
  readonly #knowledge: Knowledge = $derived.by(() => {
    const { recording, sound, on, track } = this.#view;
    const { doubts, contrasts } = this.#parts;
    const { hasVideo, frameRate } = recording.media;
    const isMeasured = hasVideo && contrasts.cues.length > 0;
    const isLarge = hasLargeLetters(track.look);
    return {
      durationMs: recording.durationMs,
      frameMs: frameRate === undefined || frameRate === null ? USUAL_FRAME_MS : 1000 / frameRate,
      speech: sound === null ? null : sound.speech.regions,
      shotsMs: hasVideo && on.areShotsKnown ? on.shotsMs : null,
      sounds: sound === null ? null : findSounds(sound.levels, sound.speech.regions),
      contrast: isMeasured
        ? new Map(
            contrasts.cues.map(({ cueId, legibility: { worst }, isOverLettering }) => [
              cueId,
              { worst, isLarge, isOverLettering }
            ])
          )
        : null,
      doubts: doubts.state === 'there' ? new Map(doubts.open.map((doubt) => [doubt.wordIds[0]!, doubt])) : null,
      isSpelled: doubts.isSpelled,
      source: this.#source,
      terms: this.#terms
    };
  });

  /** What is still being found out: findings may be added. */
  readonly awaited: readonly ('sound' | 'shots' | 'light' | 'wording')[] = $derived.by(() => {
    const { recording, sound, on, track } = this.#view;
    const { doubts, contrasts } = this.#parts;
    const { hasVideo } = recording.media;
    const isLightComing = contrasts.cues.length === 0 && contrasts.failure === null && track.cues.length > 0;
    return [
      ...(sound === null && on.soundFailure === null ? (['sound'] as const) : []),
      ...(hasVideo && !on.areShotsKnown && on.soundFailure === null ? (['shots'] as const) : []),
      ...(hasVideo && isLightComing ? (['light'] as const) : []),
      ...(doubts.state === 'unasked' || doubts.state === 'looking' ? (['wording'] as const) : [])
    ];
  });

  /** Keeps checking while a place shows it; returns what ends that. Called in an effect's setup, it follows the track. */
  follow(): () => void {
    void this.#loadAccepted();
    if (this.#parts.doubts.state === 'unasked') void this.#parts.doubts.load();
    const { sourceTrackId } = this.#view.track;
    const stop =
      sourceTrackId === null
        ? () => undefined
        : listenToServer({
            onDocument: ({ id }) => void (id === sourceTrackId && this.#loadSource(sourceTrackId)),
            onReconnect: () => void this.#loadSource(sourceTrackId)
          });
    if (sourceTrackId !== null) void this.#loadSource(sourceTrackId);
    return () => {
      stop();
      clearTimeout(this.#rest);
      this.#end();
    };
  }

  /** Ends the worker; whoever waits for it goes on without. */
  #end(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#sent = null;
    this.#checked = null;
    this.#known = null;
    this.mending = null;
    for (const go of this.#reports.splice(0)) go();
    for (const answer of this.#waiting.values()) answer({ commands: [], keys: [] });
    this.#waiting.clear();
  }

  /** Looks again, when the hands rest. */
  check(): void {
    const { track } = this.#view;
    const knowledge = this.#knowledge;
    if (this.state === 'unasked') this.state = 'checking';
    clearTimeout(this.#rest);
    this.#rest = setTimeout(() => this.#check(track, knowledge), REST_MS);
  }

  #check(track: Track, knowledge: Knowledge): void {
    clearTimeout(this.#rest);
    this.#tell(track, knowledge);
    this.#checked = { id: ++this.#asked, track };
    this.#send({ type: 'check', id: this.#asked });
  }

  /** Resolves when the findings are those of the track as it is now: keys go with its text. */
  async #upToDate(): Promise<void> {
    const { track } = this.#view;
    if (this.#checked?.track === track && this.#reported === this.#checked.id) return;
    this.#check(track, this.#knowledge);
    await new Promise<void>((resolve) => this.#reports.push(resolve));
  }

  /** Goes on from the one in hand, else from where it was, else from the playhead. */
  step(by: 1 | -1): void {
    const { listed, at } = this;
    if (listed.length === 0)
      return this.#view.say(this.state === 'there' ? phrases.checkList.noneLeft : phrases.checkList.stillChecking);
    this.show(listed[stepRound(listed, by, { at, nowMs: this.#view.player.nowMs })]!);
  }

  show(finding: Finding): void {
    const view = this.#view;
    this.currentKey = finding.key;
    this.isLettingStand = false;
    this.#shown = finding;
    const { findCue, findWord } = lookUp(view.track);
    const cue = finding.cueId === null ? undefined : findCue(finding.cueId);
    if (cue === undefined) view.seek(finding.startMs);
    else view.chooseCue(cue, { seek: true });
    if (finding.wordId !== null && findWord(finding.wordId) !== undefined) view.chooseWords([finding.wordId]);
    view.say(phrases.checkList.inHand(this.at + 1, this.listed.length, titleOf(finding)));
    void this.propose();
  }

  /** Takes up the finding that was in hand: its key is another one where its text has changed. Gone, the one that follows. */
  #takeUp(): void {
    const shown = this.#shown;
    if (shown === null || this.currentKey === null || this.current !== null) return;
    const isSame = ({ rule, cueId, wordId }: Finding): boolean =>
      rule === shown.rule && cueId === shown.cueId && wordId === shown.wordId;
    const same = this.listed.find(isSame);
    if (same !== undefined) {
      this.currentKey = same.key;
      this.proposal = null;
      return;
    }
    const next = this.listed.find(({ startMs }) => startMs >= shown.startMs) ?? this.listed.at(-1);
    if (next === undefined) this.currentKey = null;
    else this.show(next);
  }

  /** Asks what would mend the one in hand. */
  async propose(): Promise<void> {
    this.proposal = null;
    await this.#upToDate();
    const finding = this.current;
    if (finding?.fixable !== true) return;
    const { commands } = await this.#mendings([finding.key]);
    if (this.currentKey === finding.key) this.proposal = { key: finding.key, commands };
  }

  /** Mends the one in hand, and goes on. */
  async mend(): Promise<void> {
    await this.#upToDate();
    const finding = this.current;
    if (finding === null) return this.#view.say(phrases.checkList.noneInHand);
    await this.#mend([finding]);
  }

  /** Mends all of the kind of the one in hand that can be. */
  async mendKind(): Promise<void> {
    await this.#upToDate();
    if (this.alike.length === 0) return this.#view.say(phrases.checkList.notUnseen);
    await this.#mend(this.alike);
  }

  cancelMending(): void {
    if (this.mending === null) return;
    this.#end();
    this.#view.say(phrases.checkList.mendingCancelled);
    this.check();
  }

  /** Lets the one in hand stand. */
  async letStand(reason: string): Promise<void> {
    this.isLettingStand = false;
    await this.#upToDate();
    const finding = this.current;
    if (finding === null) return;
    this.lastReason = reason;
    this.#goOn(new Set([finding.key]), () => {
      this.accepted = new Map([...this.accepted, [finding.key, reason]]);
      this.#letStand = [...this.#letStand, [finding.key]];
    });
    this.#view.say(phrases.checkList.stands);
    this.#keep(() => api.acceptFindings(this.#view.session.trackId, [finding.key], reason));
  }

  /** Resolves when the server knows what stands, as far as it could be told. */
  async kept(): Promise<void> {
    await this.#keeping;
  }

  /** In the order in which it was done. */
  #keep(send: () => Promise<unknown>): void {
    this.#keeping = this.#keeping
      .then(send)
      .catch((error: unknown) => (this.failure = phrases.checkList.notKept(messageOf(error))));
  }

  /** Takes back that it stands: of the one in hand where those that stand are shown, else of the last one. */
  reconsider(): void {
    const keys = this.showsAccepted && this.current !== null ? [this.current.key] : this.#letStand.at(-1);
    if (keys === undefined) return this.#view.say(phrases.checkList.nothingStands);
    this.#letStand = this.#letStand.filter((one) => one !== keys);
    const take = (): void => void (this.accepted = new Map([...this.accepted].filter(([key]) => !keys.includes(key))));
    if (this.showsAccepted) this.#goOn(new Set(keys), take);
    else {
      take();
      const again = this.open.find(({ key }) => keys.includes(key));
      if (again !== undefined) this.show(again);
    }
    this.#keep(() => api.takeAcceptedBack(this.#view.session.trackId, keys));
  }

  async #mend(findings: readonly Finding[]): Promise<void> {
    if (findings.length > 1) this.mending = 0;
    const { commands, keys } = await this.#mendings(findings.map(({ key }) => key));
    const isCancelled = findings.length > 1 && this.mending === null;
    this.mending = null;
    if (isCancelled) return;
    if (commands.length === 0) return this.#view.say(phrases.checkList.notMended);
    const mended = new Set(keys);
    if (!this.#view.edit(commands)) return;
    this.#goOn(mended, () => (this.findings = this.findings.filter(({ key }) => !mended.has(key))));
    this.#view.say(phrases.checkList.mended(keys.length, findings.length));
  }

  /** Does what takes findings off the list, and shows the one that then stands where the one in hand was. */
  #goOn(keys: ReadonlySet<string>, work: () => void): void {
    const { at } = this;
    const next = this.listed.slice(Math.max(0, at)).find(({ key }) => !keys.has(key));
    work();
    const there = next === undefined ? this.listed.at(-1) : this.listed.find(({ key }) => key === next.key);
    this.currentKey = null;
    this.proposal = null;
    if (there !== undefined) this.show(there);
  }

  #mendings(keys: readonly string[]): Promise<Mendings> {
    return new Promise((resolve) => {
      const id = ++this.#asked;
      this.#waiting.set(id, resolve);
      this.#tell(this.#view.track, this.#knowledge);
      this.#send({ type: 'mend', id, keys, atMs: Date.now() });
    });
  }

  async #loadAccepted(): Promise<void> {
    try {
      this.accepted = await api.acceptedFindings(this.#view.session.trackId);
    } catch (error) {
      this.failure = messageOf(error);
    }
  }

  /** One that is gone is told as not checked. */
  async #loadSource(id: TrackId): Promise<void> {
    try {
      const source = (await api.document(id)).track;
      this.#terms = await translateCalls.terms(source.language, this.#view.track.language);
      this.#source = source;
    } catch (error) {
      this.#source = null;
      if (!(error instanceof CodedError && error.code === 'unknown_track')) this.failure = messageOf(error);
    }
  }

  /** Brings the worker to what the page has: only what has changed is sent. */
  #tell(track: Track, knowledge: Knowledge): void {
    if (this.#known !== knowledge) this.#send({ type: 'know', knowledge });
    this.#known = knowledge;
    if (this.#sent === null) this.#send({ type: 'track', track });
    else if (this.#sent !== track)
      this.#send({ type: 'changes', changes: changesBetween(this.#sent, track, trackShape) });
    this.#sent = track;
  }

  #send(asked: Asked): void {
    this.#worker ??= this.#openWorker();
    this.#worker.postMessage(asked);
  }

  #openWorker(): Worker {
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }) => {
      const answer = answerSchema.parse(data);
      if (answer.type === 'mending') {
        if (this.mending !== null) this.mending = answer.progress;
        return;
      }
      if (answer.type === 'mended') {
        this.#waiting.get(answer.id)?.(answer);
        this.#waiting.delete(answer.id);
        return;
      }
      // A later answer is on its way.
      if (answer.id !== this.#checked?.id) return;
      this.#reported = answer.id;
      ({ findings: this.findings, notChecked: this.notChecked } = answer);
      this.state = 'there';
      this.#takeUp();
      for (const go of this.#reports.splice(0)) go();
      if (this.proposal === null) void this.propose();
    });
    worker.addEventListener('error', ({ message }) => (this.failure = message));
    return worker;
  }
}

export const titleOf = ({ rule }: Pick<Finding, 'rule'>): string => findCheck(rule)!.title;
