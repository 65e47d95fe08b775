<script lang="ts">
  import { formatClock, toSpan } from '$lib/core/time';
  import { lookUp } from '$lib/core/track';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Proposal } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  interface Props {
    proposal: Proposal;
    /** The words of the track or of the proposal have changed. */
    onChange: () => Promise<void>;
  }
  let { proposal, onChange }: Props = $props();
  const desk = useTrackDesk();
  const { session, player } = desk;
  type Passage = Proposal['passages'][number];

  /** First words of passages that are to stay as they are. */
  let left = $state.raw<ReadonlySet<string>>(new Set());
  let failure = $state<string | null>(null);
  let isBusy = $state(false);
  const open = $derived(proposal.passages.filter((passage) => !left.has(passage.wordIds[0]!)));
  const corrected = $derived(open.filter((passage) => passage.isCorrected).length);
  const passage = $derived(open[0]);

  /** Moves the playhead to the current passage, when the list gets the focus and at each step. */
  let shown: Passage | undefined;
  function show(): void {
    if (passage === undefined || passage === shown) return;
    shown = passage;
    const { wordIds } = passage;
    const { wordAt } = lookUp(desk.track);
    const at = wordAt.get(wordIds[0]!);
    if (at !== undefined) desk.chooseWord(desk.track.words[at]);
  }
  function listen({ startMs, endMs }: Passage): void {
    player.setLoop(toSpan({ startMs: Math.max(0, startMs - 300), endMs: endMs + 300 }));
    player.seek(startMs);
    if (!player.isPlaying) player.toggle();
  }
  async function take(which: 'all' | readonly string[]): Promise<void> {
    isBusy = true;
    failure = null;
    try {
      session.flush();
      await session.saved();
      await api.takeProposed(session.trackId, proposal.id, { revision: session.revision, take: which });
      desk.say(phrases.proposal.taken);
      player.setLoop(null);
      await onChange();
      show();
    } catch (error) {
      failure = messageOf(error);
    } finally {
      isBusy = false;
    }
  }
  function leave(): void {
    left = new Set([...left, passage!.wordIds[0]!]);
    player.setLoop(null);
    show();
  }
  async function putAway(): Promise<void> {
    player.setLoop(null);
    await api.putProposalAway(session.trackId, proposal.id);
    await onChange();
  }
  function onKey(event: KeyboardEvent): void {
    if (event.target instanceof HTMLButtonElement && (event.key === ' ' || event.key === 'Enter')) return;
    if (passage === undefined || isBusy) return;
    const key = event.key.toLowerCase();
    if (key === 't') void take([passage.wordIds[0]!]);
    else if (key === 'l') leave();
    else if (key === ' ') listen(passage);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<!-- While this has the focus, every key goes here. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<section tabindex="0" aria-labelledby="proposal-title" onkeydown={onKey} onfocusin={show}>
  <h3 id="proposal-title">
    {open.length === 0 ? phrases.proposal.same : phrases.proposal.differs(open.length)}
  </h3>
  {#if passage !== undefined}
    <p class="soft mono">
      {formatClock(passage.startMs)}
      {#if passage.isCorrected}<span class="kept">{phrases.proposal.correctedByHand}</span>{/if}
    </p>
    <dl>
      <dt>{phrases.proposal.now}</dt>
      <dd>{passage.now === '' ? 'nothing' : passage.now}</dd>
      <dt>{phrases.proposal.heard}</dt>
      <dd class="heard">{passage.heard === '' ? 'nothing' : passage.heard}</dd>
    </dl>
    <p class="acts">
      <button class="act filled" disabled={isBusy} onclick={() => void take([passage.wordIds[0]!])}
        >{phrases.proposal.useThis} <kbd>T</kbd></button
      >
      <button class="act" onclick={leave}>{phrases.proposal.keepMine} <kbd>L</kbd></button>
      <button class="act" onclick={() => listen(passage)}
        >{phrases.proposal.listen} <kbd>{phrases.proposal.space}</kbd></button
      >
    </p>
    {#if open.length - corrected > 1}
      <p>
        <button class="act" disabled={isBusy} onclick={() => void take('all')}
          >{phrases.proposal.useAll(open.length, corrected)}</button
        >
      </p>
    {/if}
  {/if}
  {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  <p><button class="act quiet" onclick={() => void putAway()}>{phrases.proposal.dismissTheNewHearing}</button></p>
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    padding: 12px 14px;
    border: 1px solid var(--leaf);
    border-radius: 4px 18px;
    background: var(--sheet);
  }
  h3 {
    font-weight: 700;
  }
  dl {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 2px 10px;
  }
  dt {
    color: var(--soft-ink);
  }
  .heard {
    font-weight: 700;
  }
  .kept {
    margin-left: 8px;
    color: var(--straw);
    font-family: inherit;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .acts .filled kbd {
    color: inherit;
  }
  .failed {
    color: var(--clay);
  }
</style>
