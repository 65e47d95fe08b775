<script lang="ts">
  import { onMount } from 'svelte';
  import type { TrackId } from '$lib/core/id';
  import { messageOf } from '$lib/core/message-of';
  import { isSameLanguage, languageName } from '$lib/core/track';
  import { translateCalls, type TextQuote, type TranslatorFacts } from '$lib/client/translate/calls';
  import { formatMoney } from '../frame/money';
  import { phrases } from './phrases';

  /** Which translator drafts, what is to be said of it honestly, and what it costs. */
  interface Props {
    /** What is priced: a track that is to be translated as a whole, or a translation for what it lacks. */
    priced: { readonly trackId: TrackId; readonly isWhole: boolean };
    from: string;
    to: string;
    /** The one that is chosen; empty where none can. */
    engine: string;
    /** What it costs; `null`: nothing, or not known yet. */
    quote: TextQuote | null;
  }
  let { priced, from, to, engine = $bindable(), quote = $bindable() }: Props = $props();
  let translators = $state.raw<readonly TranslatorFacts[] | null>(null);
  let failure = $state<string | null>(null);
  const fail = (error: unknown): void => void (failure = messageOf(error));
  const words = phrases.engine;
  const fits = (pair: { from: string; to: string }): boolean =>
    isSameLanguage(pair.from, from) && isSameLanguage(pair.to, to);
  const able = $derived((translators ?? []).filter(({ available, pairs }) => available && pairs.some(fits)));
  const chosen = $derived(able.find(({ id }) => id === engine) ?? null);
  const pair = $derived(
    chosen?.pairs
      .filter(fits)
      .toSorted((one, other) => Number(one.via !== undefined) - Number(other.via !== undefined))[0] ?? null
  );
  const missing = $derived(
    (translators ?? []).flatMap(({ name, missing: lacks }) =>
      lacks.filter(fits).map(({ install }) => words.missing(name, install))
    )
  );
  onMount(() => {
    translateCalls.translators().then((found) => (translators = found), fail);
    return () => (quote = null);
  });
  $effect(() => {
    if (chosen === null) engine = able[0]?.id ?? '';
  });
  $effect(() => {
    const asked = engine;
    quote = null;
    if (asked === '') return;
    translateCalls.quote(priced.trackId, asked, priced.isWhole).then((found) => {
      if (asked === engine) quote = found;
    }, fail);
  });
</script>

<div class="engine">
  {#if able.length > 1}
    <label
      >{words.label}
      <select class="field" bind:value={engine}>
        {#each able as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </select></label
    >
  {:else if chosen !== null}<p><span class="soft">{words.label}</span> {chosen.name}</p>{/if}
  {#if chosen !== null && pair !== null}
    <p class:rough={pair.worth === 'rough'}>{words.worth[pair.worth]}</p>
    {#if pair.via !== undefined}<p class="rough">{words.via(languageName(pair.via))}</p>{/if}
    <p class="soft">
      {chosen.sendsText ? words.sends(chosen.name) : words.here}
      {#if quote !== null}
        {words.cost(
          formatMoney(quote.costCents, quote.currency),
          quote.characters,
          formatMoney(quote.balanceAfterCents, quote.currency)
        )}
      {/if}
    </p>
  {:else if translators !== null}
    <p class="rough">{missing[0] ?? words.impossible}</p>
    {#each translators.filter(({ available }) => !available) as { id, name, reason } (id)}
      <p class="soft">{words.unavailable(name, reason ?? '')}</p>
    {/each}
  {/if}
  {#if failure !== null}<p class="failure" role="alert">{failure}</p>{/if}
</div>

<style>
  .engine {
    display: grid;
    gap: 6px;
  }
  label {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  .rough {
    color: var(--straw);
  }
</style>
