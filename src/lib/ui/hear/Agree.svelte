<script lang="ts">
  import type { Quote } from '$lib/client/api';
  import { formatMoney } from './money';
  import { phrases } from './phrases';

  interface Props {
    quote: Quote;
    service: string;
    onAgree: () => void;
    onClose: () => void;
  }
  let { quote, service, onAgree, onClose }: Props = $props();
  let dialog = $state<HTMLDialogElement | undefined>();
  const cost = $derived(formatMoney(quote.costCents, quote.currency));

  $effect(() => dialog?.showModal());
</script>

<dialog bind:this={dialog} aria-labelledby="agree-title" onclose={onClose}>
  <h2 id="agree-title">{phrases.agree.sendTheSoundAnd(cost)}</h2>
  <p>
    {phrases.agree.about(service, quote.minutes)}
  </p>
  <p class="soft">
    {phrases.agree.balance(
      formatMoney(quote.balanceCents, quote.currency),
      formatMoney(quote.balanceAfterCents, quote.currency)
    )}
  </p>
  <form method="dialog">
    <button class="act filled" onclick={onAgree}>{phrases.agree.sendItAndSpend(cost)}</button>
    <button class="act">{phrases.agree.notNow}</button>
  </form>
</dialog>

<style>
  dialog {
    width: min(480px, 90vw);
    margin: auto;
    padding: 22px 26px;
    border: 1px solid var(--rule);
    border-radius: 4px 22px;
    background: var(--sheet);
    color: var(--ink);
  }
  dialog::backdrop {
    background: color-mix(in oklab, var(--ink), transparent 65%);
  }
  h2 {
    margin-bottom: 10px;
    font-size: 19px;
    font-weight: 700;
  }
  form {
    display: flex;
    gap: 10px;
    margin-top: 16px;
  }
</style>
