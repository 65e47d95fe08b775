<script lang="ts">
  import { untrack } from 'svelte';
  import { formatClock } from '$lib/core/time';
  import { joinWords, lookUp, languageName } from '$lib/core/track';
  import { sentenceAround } from '$lib/core/wording';
  import { REASONS } from '$lib/client/doubt-queue.svelte';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { doubts } = desk;
  /** A track that is being worked on is looked at anew when the hands rest. */
  const REST_MS = 2500;

  $effect(() => {
    if (untrack(() => doubts.state) === 'unasked') {
      void doubts.load();
      return;
    }
    void desk.session.track;
    if (untrack(() => doubts.state) !== 'there') return;
    const timer = setTimeout(() => void doubts.load(), REST_MS);
    return () => clearTimeout(timer);
  });

  const doubt = $derived(doubts.current);
  /** The sentence of the doubt in hand, in three parts. */
  const sentence = $derived.by(() => {
    if (doubt === null) return null;
    const { words } = desk.track;
    const { wordAt } = lookUp(desk.track);
    const [first, last] = [wordAt.get(doubt.wordIds[0]!)!, wordAt.get(doubt.wordIds.at(-1)!)!];
    const from = Math.max(sentenceAround(words, first).from, first - 12);
    const to = Math.min(sentenceAround(words, last).to, last + 13);
    return {
      before: joinWords(words.slice(from, first)),
      doubted: joinWords(words.slice(first, last + 1)),
      after: joinWords(words.slice(last + 1, to))
    };
  });
  const counts = $derived.by(() => {
    const byReason = new Map<string, number>();
    for (const { reason } of doubts.open) byReason.set(reason, (byReason.get(reason) ?? 0) + 1);
    return [...byReason].sort(([, one], [, other]) => other - one);
  });
  const share = $derived(doubts.judged / Math.max(1, doubts.judged + doubts.open.length));
</script>

<section aria-labelledby="doubts-title">
  <header>
    <h3 id="doubts-title" data-testid="doubts-left">
      {doubts.state === 'there'
        ? doubts.open.length === 0
          ? phrases.doubts.noDoubtsAreLeft
          : phrases.doubts.left(doubts.open.length)
        : phrases.doubts.doubts}
    </h3>
    {#if doubts.hasKept}
      <button class="act quiet" title={phrases.doubts.askAgain} onclick={() => doubts.reconsider()}
        >{phrases.doubts.kept(doubts.judged)} <kbd>{surfaceKey('reconsiderDoubt')}</kbd></button
      >
    {:else if doubts.judged > 0}<span class="soft">{phrases.doubts.lookedAt(doubts.judged)}</span>{/if}
  </header>
  {#if doubts.state === 'there' && !doubts.isSpelled}
    <p class="soft">{phrases.doubts.noDictionary(languageName(desk.track.language))}</p>
  {/if}
  {#if doubts.failure !== null}
    <p class="failed" role="alert">{doubts.failure}</p>
    <button class="act" onclick={() => void doubts.load()}>{phrases.doubts.lookAgain}</button>
  {:else if doubts.state === 'stopped'}
    <button class="act" onclick={() => void doubts.load()}>{phrases.doubts.lookForDoubts}</button>
  {:else if doubts.state !== 'there'}
    <p class="soft looking" role="status">
      {phrases.doubts.lookingThroughTheWords}
      <button class="act quiet" onclick={() => doubts.stop()}>{phrases.doubts.cancel}</button>
    </p>
    <ProgressBar label={phrases.doubts.lookingForDoubts} progress={doubts.progress} />
  {:else if doubt !== null && sentence !== null}
    <p class="reason">
      <span>{REASONS[doubt.reason]}</span>
      <span class="soft mono"
        >{phrases.doubts.place(formatClock(doubt.startMs), doubts.at + 1, doubts.open.length)}</span
      >
    </p>
    <p class="sentence">{sentence.before} <mark>{sentence.doubted}</mark> {sentence.after}</p>
    {#if doubt.candidates.length > 0}
      <ol aria-label={phrases.doubts.whatMayBeMeant}>
        {#each doubt.candidates as candidate, at (at)}
          <li>
            <button onclick={() => doubts.take(at + 1)}>
              <kbd class="key">{at + 1}</kbd>
              <span>{candidate.text === '' ? phrases.doubts.leaveItOut : candidate.text}</span>
            </button>
          </li>
        {/each}
      </ol>
    {:else}
      <p class="soft">{phrases.doubts.noCandidate(surfaceKey('hearAgain'))}</p>
    {/if}
    <p class="acts">
      <button class="act" onclick={() => doubts.keep()}
        >{phrases.doubts.keepAsItIs} <kbd>{surfaceKey('keepDoubt')}</kbd></button
      >
      <button class="act" onclick={() => void doubts.addToVocabulary()}
        >{phrases.doubts.addToNames} <kbd>{surfaceKey('doubtToVocabulary')}</kbd></button
      >
      <button class="act" onclick={() => doubts.step(1)}
        >{phrases.doubts.next} <kbd>{surfaceKey('nextDoubt')}</kbd></button
      >
    </p>
  {:else if doubts.open.length > 0}
    <p class="soft">{phrases.doubts.about}</p>
    <ul class="counts">
      {#each counts as [reason, count] (reason)}
        <li><span class="mono">{count}</span> {REASONS[reason as keyof typeof REASONS]}</li>
      {/each}
    </ul>
    <button class="act filled" onclick={() => doubts.step(1)}
      >{phrases.doubts.goThroughThem} <kbd>{surfaceKey('nextDoubt')}</kbd></button
    >
  {:else}
    <p class="soft">{phrases.doubts.allDone}</p>
  {/if}
  {#if doubts.alike.length > 0}
    <button class="act" onclick={() => doubts.repeat()}
      >{phrases.doubts.sameForAlike(doubts.alike.length)} <kbd>{surfaceKey('repeatDoubt')}</kbd></button
    >
  {/if}
  {#if doubts.judged > 0}
    <div class="track-bar" aria-hidden="true"><span style:width="{share * 100}%"></span></div>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 10px;
    justify-items: stretch;
  }
  section > .act {
    justify-self: start;
  }
  header,
  .reason {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 10px;
  }
  h3 {
    font-size: 17px;
    font-weight: 700;
  }
  .reason span:first-child {
    color: color-mix(in oklab, var(--straw), var(--ink) 25%);
    font-weight: 700;
  }
  .looking {
    display: flex;
    align-items: center;
    justify-content: space-between;
  }
  .sentence {
    padding: 8px 12px;
    border-left: 3px solid var(--straw);
    background: var(--sheet);
    font-size: 16px;
    line-height: 1.5;
    overflow-wrap: anywhere;
  }
  mark {
    padding: 1px 3px;
    border-radius: 3px;
    background: var(--pale-leaf);
    color: inherit;
    font-weight: 700;
  }
  ol button {
    display: flex;
    align-items: center;
    gap: 10px;
    width: 100%;
    padding: 4px 6px;
    border-radius: 6px;
    text-align: left;
    overflow-wrap: anywhere;
  }
  ol button:hover,
  ol button:focus-visible {
    background: var(--pale-leaf);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .counts li {
    display: grid;
    grid-template-columns: 34px minmax(0, 1fr);
    gap: 6px;
  }
  .counts .mono {
    text-align: right;
  }
  .filled kbd {
    color: inherit;
  }
  .failed {
    color: var(--clay);
  }
</style>
