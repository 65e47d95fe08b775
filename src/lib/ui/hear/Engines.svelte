<script lang="ts">
  import type { Engine, Quote } from '$lib/client/api';
  import { formatMoney } from '../frame/money';
  import { phrases } from './phrases';

  interface Props {
    /** Those that hear the language. */
    engines: readonly Engine[];
    engineId: string;
    /** Whether a script is to be fitted. */
    hasScript: boolean;
    /** `null`: nothing is billed, or the price is not known yet. */
    quote: Quote | null;
  }
  let { engines, engineId = $bindable(), hasScript, quote }: Props = $props();
  const chosen = $derived(engines.find((engine) => engine.id === engineId));

  function where({ available, reason, sendsSound, price, fits }: Engine): string {
    if (!available) return reason ?? phrases.engines.itCannotBeUsed;
    if (hasScript && !fits) return phrases.engines.itFitsNoScript;
    if (!sendsSound) return phrases.engines.local;
    return price === undefined
      ? phrases.engines.sent
      : phrases.engines.sentFor(formatMoney(price.centsPerMinute, price.currency));
  }
</script>

<fieldset>
  <legend>{phrases.engines.heardBy}</legend>
  {#each engines as engine (engine.id)}
    <label>
      <input
        type="radio"
        name="engine"
        value={engine.id}
        bind:group={engineId}
        disabled={!engine.available || (hasScript && !engine.fits)}
      />
      <span>
        {engine.name}<br />
        <span class="soft">{where(engine)}</span>
        {#if engine === chosen && quote !== null}
          <span class="price" class:short={quote.balanceAfterCents < 0} role="status">
            {phrases.engines.minutes(quote.minutes)}
            <strong>{formatMoney(quote.costCents, quote.currency)}</strong>{phrases.engines.balance(
              formatMoney(quote.balanceCents, quote.currency),
              quote.balanceAfterCents < 0 ? null : formatMoney(quote.balanceAfterCents, quote.currency)
            )}
          </span>
        {/if}
      </span>
    </label>
  {/each}
  <p><span class="soft">{phrases.engines.ownModels}</span> <a href="/ears">{phrases.engines.ears}</a></p>
</fieldset>

<style>
  fieldset {
    display: grid;
    gap: 6px;
  }
  legend {
    margin-bottom: 4px;
    font-weight: 700;
  }
  label {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 7px;
    align-items: baseline;
  }
  a {
    color: var(--leaf);
    text-decoration: underline;
  }
  .price {
    display: block;
  }
  .short {
    color: var(--clay);
  }
</style>
