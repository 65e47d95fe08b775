<script lang="ts">
  import { untrack } from 'svelte';
  import { formatClock } from '$lib/core/time';
  import { aroundHit } from '$lib/core/search';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { finder } = desk;
  let field = $state<HTMLInputElement | undefined>();
  let isTerm = $state(false);
  $effect(() => {
    if (!finder.isAsked || field === undefined) return;
    untrack(() => (finder.isAsked = false));
    field.focus();
    field.select();
  });

  const flags = [
    { name: 'matchCase', label: phrases.find.capitalsAsTyped },
    { name: 'wholeWord', label: phrases.find.wholeWords },
    { name: 'soundsLike', label: phrases.find.soundsLikeIt }
  ] as const;
  const elsewhereCount = $derived((finder.elsewhere ?? []).reduce((sum, one) => sum + one.count, 0));

  function onKey(event: KeyboardEvent): void {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    finder.step(event.shiftKey ? -1 : 1);
  }
  async function noteTerm(): Promise<void> {
    if (isTerm && finder.replacement.trim() !== '') await desk.expect(finder.replacement.trim());
  }
  function replaceOne(): void {
    finder.replaceOne();
    void noteTerm();
  }
  function replaceAll(): void {
    finder.replaceAll();
    void noteTerm();
  }
</script>

<section aria-label={phrases.find.findAndReplace}>
  <label
    >{phrases.find.find}
    <input
      class="field"
      bind:this={field}
      value={finder.query.text}
      oninput={(event) => finder.ask({ text: event.currentTarget.value })}
      onkeydown={onKey}
    /></label
  >
  <p class="flags">
    {#each flags as { name, label } (name)}
      <label
        ><input
          type="checkbox"
          checked={finder.query[name]}
          onchange={(event) => finder.ask({ [name]: event.currentTarget.checked })}
        />
        {label}</label
      >
    {/each}
  </p>
  <label
    >{phrases.find.replaceWith}
    <input
      class="field"
      bind:value={finder.replacement}
      onkeydown={(event) => {
        if (event.key === 'Enter') replaceOne();
      }}
    /></label
  >
  <label class="term"><input type="checkbox" bind:checked={isTerm} /> {phrases.find.addToNames}</label>
  <p class="acts">
    <button class="act" disabled={finder.hits.length === 0} onclick={() => finder.step(1)}>{phrases.find.next}</button>
    <button class="act" disabled={finder.hits.length === 0} onclick={replaceOne}>{phrases.find.replace}</button>
    <button class="act" disabled={finder.hits.length === 0} onclick={replaceAll}
      >{phrases.find.replaceAll(finder.hits.length)}</button
    >
  </p>
  {#if finder.query.text.trim() !== ''}
    <p class="soft" role="status" data-testid="hits">
      {finder.hits.length === 0 ? phrases.find.notFound : phrases.find.inThisTrack(finder.hits.length)}
    </p>
    <LongList
      label={phrases.find.places}
      count={finder.hits.length}
      at={finder.at}
      startMsOf={(at: number) => desk.track.words[finder.hits[at]!.from]!.startMs}
      onChoose={(at: number) => finder.show(at)}
    >
      {#snippet text(at: number)}
        {@const { before, found, after } = aroundHit(desk.track.words, finder.hits[at]!)}
        {before}<mark>{found}</mark>{after}
      {/snippet}
    </LongList>
    <h3>{phrases.find.inAllOtherTracks}</h3>
    {#if finder.elsewhere === null}
      <button class="act" onclick={() => void finder.lookElsewhere()}>{phrases.find.lookForItThere}</button>
    {:else if finder.elsewhere.length === 0}
      <p class="soft" role="status">{phrases.find.notElsewhere}</p>
    {:else}
      <ul>
        {#each finder.elsewhere as one (one.trackId)}
          <li>
            <a href="/recordings/{one.recordingId}/tracks/{one.trackId}/read">{one.recordingTitle}</a>
            <span class="soft">{one.language}, {one.count} {one.count === 1 ? 'place' : 'places'}</span>
            {#each one.hits.slice(0, 3) as hit (`${hit.wordId} ${hit.before}`)}
              <p class="soft elsewhere">
                <span class="mono">{formatClock(hit.startMs)}</span>
                {hit.before}<mark>{hit.found}</mark>{hit.after}
              </p>
            {/each}
          </li>
        {/each}
      </ul>
      <button class="act" onclick={() => void finder.replaceElsewhere().then(noteTerm)}
        >{phrases.find.replaceElsewhere(finder.replacement, elsewhereCount)}</button
      >
    {/if}
  {/if}
  {#if finder.failure !== null}<p class="failed" role="alert">{finder.failure}</p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 10px;
  }
  label:has(.field) {
    display: grid;
    grid-template-columns: 96px minmax(0, 1fr);
    align-items: center;
  }
  .flags {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  h3 {
    font-weight: 700;
  }
  li a {
    color: var(--leaf);
    text-decoration: underline;
  }
  mark {
    background: color-mix(in oklab, var(--straw), transparent 65%);
    color: inherit;
    font-weight: 700;
  }
  .elsewhere {
    padding-left: 10px;
  }
  section > .act {
    justify-self: start;
    white-space: normal;
    text-align: left;
  }
  .failed {
    color: var(--clay);
  }
</style>
