<script lang="ts">
  import { goto } from '$app/navigation';
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { isSameLanguage, languageName } from '$lib/core/track';
  import { languageGroups } from '$lib/client/languages';
  import {
    translateCalls,
    type BeginAsked,
    type TextQuote,
    type TranslationSummary
  } from '$lib/client/translate/calls';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { formatMoney } from '../frame/money';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import EngineChoice from './EngineChoice.svelte';
  import { phrases } from './phrases';

  /** The translations of a track, and the beginning of another. */
  const desk = useTrackDesk();
  const words = phrases.begin;
  const OTHER = 'other';
  const WAYS = ['engine', 'empty', 'text', 'source'] as const;
  const { trackId } = desk.session;
  let translations = $state.raw<readonly TranslationSummary[] | null>(null);
  let chosen = $state('es');
  let other = $state('');
  let way = $state<BeginAsked['from']>('engine');
  let engine = $state('');
  let text = $state('');
  let quote = $state.raw<TextQuote | null>(null);
  let failure = $state<string | null>(null);
  let isBusy = $state(false);
  let box = $state<HTMLElement | undefined>();
  const language = $derived(chosen === OTHER ? other.trim() : chosen);
  const tags = languageGroups([]).flatMap((group) => group.tags);

  async function load(): Promise<void> {
    translations = await translateCalls.translations(trackId);
    if (isSameLanguage(chosen, desk.track.language)) chosen = 'en';
  }
  onMount(() => {
    desk.surface = { focus: () => box?.focus(), enter: () => box?.querySelector('select')?.focus() };
    load().catch((error: unknown) => (failure = messageOf(error)));
  });
  async function begin(): Promise<void> {
    isBusy = true;
    failure = null;
    try {
      desk.session.flush();
      await desk.session.saved();
      const begun = await translateCalls.begin(trackId, {
        ...{ language, from: way },
        ...(way === 'engine' && { engine }),
        ...(way === 'engine' && quote !== null && { spendCents: quote.costCents }),
        ...(way === 'text' && { text })
      });
      await goto(hrefOf(begun.trackId));
    } catch (error) {
      failure = messageOf(error);
    } finally {
      isBusy = false;
    }
  }
  const hrefOf = (id: string): string => `/recordings/${desk.recording.id}/tracks/${id}/translate`;
  async function readFile(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    text = (await event.currentTarget.files?.[0]?.text()) ?? text;
  }
  const canBegin = $derived(
    language !== '' && (way !== 'engine' || engine !== '') && (way !== 'text' || text.trim() !== '')
  );
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="begin" bind:this={box} tabindex="0" data-surface role="region" aria-label={words.title}>
  <section>
    <h2>{words.title}</h2>
    <p class="soft">{words.about}</p>
    {#if translations !== null}
      <ul>
        {#each translations as { id, language: tag, title, progress } (id)}
          {@const share = progress.rows === 0 ? 0 : progress.states.done / progress.rows}
          <li>
            <a href={hrefOf(id)}
              ><strong>{languageName(tag)}</strong>{title === desk.track.title ? '' : ` · ${title}`}</a
            >
            <span class="bar"><ProgressBar label={words.ofAll(Math.round(share * 100))} progress={share} /></span>
            <span class="soft"
              >{phrases.head.done(progress.states.done, progress.rows)}{progress.changed > 0
                ? ` · ${phrases.head.changed(progress.changed)}`
                : ''}</span
            >
          </li>
        {:else}<li class="soft">{words.none}</li>{/each}
      </ul>
    {/if}
  </section>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void begin();
    }}
  >
    <h2>{words.heading}</h2>
    <label
      >{words.language}
      <select class="field" bind:value={chosen} data-testid="into">
        {#each tags as tag (tag)}<option value={tag}>{languageName(tag)}</option>{/each}
        <option value={OTHER}>{words.another}</option>
      </select></label
    >
    {#if chosen === OTHER}
      <label
        >{words.tag} <input class="field" size="10" placeholder={words.tagExample} bind:value={other} />
        <span class="soft">{languageName(other)}</span></label
      >
    {/if}
    <fieldset>
      <legend>{words.from}</legend>
      {#each WAYS as id (id)}
        <label class="way"
          ><input type="radio" name="way" value={id} bind:group={way} />
          <span><strong>{words.ways[id][0]}</strong> <span class="soft">{words.ways[id][1]}</span></span></label
        >
        {#if way === id && id === 'engine'}
          <div class="more">
            <EngineChoice
              priced={{ trackId, isWhole: true }}
              from={desk.track.language}
              to={language}
              bind:engine
              bind:quote
            />
          </div>
        {:else if way === id && id === 'text'}
          <div class="more">
            <textarea class="field" rows="6" aria-label={words.text} lang={language} bind:value={text}></textarea>
            <input
              type="file"
              accept=".srt,.vtt,.ttml,.txt,text/*"
              aria-label={words.file}
              onchange={(event) => void readFile(event)}
            />
          </div>
        {/if}
      {/each}
    </fieldset>
    {#if failure !== null}<p class="failure" role="alert">{failure}</p>{/if}
    <p>
      <button class="act filled" disabled={!canBegin || isBusy}
        >{isBusy
          ? words.working
          : way === 'engine' && quote !== null
            ? words.beginFor(formatMoney(quote.costCents, quote.currency))
            : words.begin}</button
      >
    </p>
  </form>
</div>

<style>
  .begin {
    display: grid;
    gap: 34px;
    align-content: start;
    height: 100%;
    padding: 26px 30px 40px;
    background: var(--sheet);
    overflow-y: auto;
  }
  h2 {
    font-size: 19px;
    font-weight: 700;
  }
  ul {
    display: grid;
    gap: 8px;
    margin-top: 14px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(140px, 220px) 140px 1fr;
    gap: 16px;
    align-items: center;
  }
  li.soft {
    display: block;
  }
  li a {
    color: var(--leaf);
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  form,
  fieldset {
    display: grid;
    gap: 12px;
    justify-items: start;
  }
  form > label {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  legend {
    padding: 0;
    font-weight: 700;
  }
  .way {
    display: flex;
    gap: 10px;
    align-items: baseline;
    cursor: pointer;
  }
  .more {
    display: grid;
    gap: 8px;
    width: min(560px, 100%);
    padding-left: 26px;
  }
  .failure {
    color: var(--clay);
  }
</style>
