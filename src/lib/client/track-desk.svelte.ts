/** A track at work: the view of it, and all that is done with it. Places only show, and ask for what stands here. */
import { getContext, setContext } from 'svelte';
import { messageOf } from '$lib/core/message-of';
import { lookUp } from '$lib/core/track';
import { CheckList } from './checks/check-list.svelte';
import { Contrasts } from './contrast/contrasts.svelte';
import { CueCommands } from './cue-commands.svelte';
import { CutRemarks } from './cut-remarks.svelte';
import { DoubtQueue } from './doubt-queue.svelte';
import { Dressing } from './dressing.svelte';
import { Finder } from './finder.svelte';
import { HandingOver } from './handing-over.svelte';
import { HearingAgain } from './hearing-again.svelte';
import { Opposites } from './opposites';
import { phrases } from './phrases';
import { PageCommands } from './page-commands';
import { TrackView } from './track-view.svelte';
import { Translating } from './translate/translating.svelte';
import { Trimming } from './trim/trimming.svelte';
import { UntoldSounds } from './untold-sounds.svelte';

export class TrackDesk extends TrackView {
  readonly page = new PageCommands(this);
  readonly cues = new CueCommands(this);
  readonly again = new HearingAgain(this);
  readonly remarks = new CutRemarks(this, this.again);
  readonly untold = new UntoldSounds(this, this.page);
  readonly doubts = new DoubtQueue(this);
  readonly finder = new Finder(this);
  readonly dressing = new Dressing(this, this.cues);
  readonly contrasts = new Contrasts(this, this.dressing);
  readonly checks = new CheckList(this, this);
  readonly handing = new HandingOver();
  readonly trimming = new Trimming(this);
  readonly translating = new Translating(this);
  /** Of which document the frame shows what is saved and undone. */
  readonly document = $derived(this.trimming.session ?? this.session);
  readonly opposites = new Opposites(this, () =>
    [...this.cues.chosenIds, ...this.page.wordsToRepair().map((word) => word.id)].join(' ')
  );

  /** To the cue that is hardest to read on its picture, then to the next of them. */
  stepPoorContrast(): void {
    const id = this.contrasts.nextPoor();
    if (this.contrasts.cues.length === 0) this.say(phrases.dressing.stillMeasured);
    else if (id === null) this.say(phrases.dressing.allLegible);
    else this.chooseCue(lookUp(this.track).findCue(id), { seek: true });
  }

  /** All tracks of the recording, to where files went last. */
  handOverAgain(): void {
    this.#handOverAgain().catch((error: unknown) => this.say(messageOf(error)));
  }
  async #handOverAgain(): Promise<void> {
    this.session.flush();
    await Promise.all([this.session.saved(), this.handing.kept.load()]);
    const { last } = this.handing;
    if (last === null) return this.say(phrases.handing.nothingYet);
    const { tracks, title } = this.recording;
    const trackIds = tracks.map(({ id }) => id);
    if (await this.handing.download({ destination: last, trackIds, title }))
      this.say(phrases.handing.done(tracks.length * last.formats.length, this.handing.find(last)?.name ?? null));
  }

  override letGo(): void {
    this.untold.leave();
    super.letGo();
  }
}

const KEY = Symbol('track desk');
export const provideTrackDesk = (get: () => TrackDesk): void => void setContext(KEY, get);
export const useTrackDesk = (): TrackDesk => getContext<() => TrackDesk>(KEY)();
