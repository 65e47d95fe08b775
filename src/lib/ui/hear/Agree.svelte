<script lang="ts">
  import type { Quote } from '$lib/client/api';
  import { formatMoney } from './money';

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
  <h2 id="agree-title">Send the sound and spend {cost}?</h2>
  <p>
    {service} hears {quote.minutes} started {quote.minutes === 1 ? 'minute' : 'minutes'}. It is billed once, when the
    words are there; nothing where it fails or you cancel.
  </p>
  <p class="soft">
    Balance now {formatMoney(quote.balanceCents, quote.currency)}, after it {formatMoney(
      quote.balanceAfterCents,
      quote.currency
    )}.
  </p>
  <form method="dialog">
    <button class="act filled" onclick={onAgree}>Send it and spend {cost}</button>
    <button class="act">Not now</button>
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
