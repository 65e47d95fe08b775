<script lang="ts">
  import type { Quote } from '$lib/client/api';
  import { formatMoney } from '../frame/money';
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

<dialog class="small-dialog" bind:this={dialog} aria-labelledby="agree-title" onclose={onClose}>
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
  form {
    display: flex;
    gap: 10px;
    margin-top: 16px;
  }
</style>
