<script lang="ts">
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** One of what is gone through: it goes, it stays, or it is heard first without. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const { trimming } = useTrackDesk();
  const words = phrases.review;
  const offer = $derived(trimming.offers.list[trimming.offers.at]);
</script>

{#if trimming.offers.going !== null && offer !== undefined}
  <div class="offer" data-testid="offer">
    <p>
      <strong>{offer.text}</strong>
      <span class="soft">{words.place(trimming.offers.at + 1, trimming.offers.list.length)}</span>
    </p>
    <p class="acts">
      <button class="act filled" onclick={() => onCommand('takeOffer')}
        >{words.take} <kbd>{surfaceKey('takeOffer')}</kbd></button
      >
      {#if offer.shorter != null}
        <button class="act" onclick={() => onCommand('shortenOffer')}
          >{words.shorten} <kbd>{surfaceKey('shortenOffer')}</kbd></button
        >
      {/if}
      <button class="act" onclick={() => onCommand('keepOffer')}
        >{words.keep} <kbd>{surfaceKey('keepOffer')}</kbd></button
      >
      <button class="act" onclick={() => onCommand('hearJoin')}>{words.hear} <kbd>{surfaceKey('hearJoin')}</kbd></button
      >
      <button class="act quiet" onclick={() => onCommand('letGo')}>{words.end} <kbd>{surfaceKey('letGo')}</kbd></button>
    </p>
  </div>
{/if}

<style>
  .offer {
    display: grid;
    gap: 8px;
    padding: 8px 12px;
    border-left: 3px solid var(--leaf);
    background: var(--sheet);
  }
  .offer p:first-child {
    display: flex;
    gap: 10px;
    justify-content: space-between;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
</style>
