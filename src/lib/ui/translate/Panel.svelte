<script lang="ts">
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** What is offered for the row in hand: what was said before, and the terms that are in it. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.panel;
  const MOST_KEYS = 9;
</script>

{#if translating.isTranslation}
  <section aria-label={words.offers} data-testid="offers">
    {#if translating.row === null}
      <p class="soft">{words.choose}</p>
    {:else}
      <div class="head">
        <h2>{words.words(translating.at + 1, translating.rows.length)}</h2>
        <span class="acts">
          <button class="act" onclick={() => onCommand('rowDone')}
            >{translating.row.state === 'done' ? words.open : words.done} <kbd>{surfaceKey('rowDone')}</kbd></button
          >
          <button class="act" onclick={() => onCommand('nextOpenRow')}
            >{words.next} <kbd>{surfaceKey('nextOpenRow')}</kbd></button
          >
        </span>
      </div>
      <ol>
        {#each translating.offers as offer, at (at)}
          <li>
            <button onclick={() => translating.take(at + 1)}>
              {#if at < MOST_KEYS}<kbd class="key">{at + 1}</kbd>{:else}<span></span>{/if}
              <span class="what" lang={desk.track.language}>
                {#if offer.kind === 'remembered'}
                  <strong>{offer.recalled.target}</strong>
                  <span class="soft">{offer.recalled.source}</span>
                {:else}
                  <strong>{offer.term.target}</strong>
                  <span class="soft">{offer.term.source}{offer.term.note === '' ? '' : ` · ${offer.term.note}`}</span>
                {/if}
              </span>
              <span
                class="kind soft"
                class:missed={offer.kind === 'term' && !offer.isUsed && translating.row.target !== ''}
              >
                {#if offer.kind === 'remembered'}
                  {offer.recalled.likeness >= 0.995
                    ? words.same
                    : words.likely(Math.round(offer.recalled.likeness * 100))}
                {:else if translating.row.target === ''}{words.term}
                {:else}{offer.isUsed ? words.used : words.missed}{/if}
              </span>
            </button>
          </li>
        {:else}<li class="soft">{words.none}</li>{/each}
      </ol>
      {#if translating.offTime.includes(translating.row)}
        <button class="act" onclick={() => onCommand('takeSourceTimes')}
          >{words.time} <kbd>{surfaceKey('takeSourceTimes')}</kbd></button
        >
      {/if}
    {/if}
  </section>
{/if}

<style>
  section {
    display: grid;
    gap: 12px;
    justify-items: start;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 14px;
    align-items: center;
    justify-content: space-between;
    width: 100%;
  }
  h2 {
    font-size: 16px;
    font-weight: 700;
  }
  .acts {
    display: flex;
    gap: 8px;
  }
  ol {
    display: grid;
    gap: 2px;
    width: 100%;
  }
  li button {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) auto;
    gap: 10px;
    align-items: start;
    width: 100%;
    padding: 7px 6px;
    border-radius: 6px;
    text-align: left;
    cursor: pointer;
  }
  li button:hover {
    background: var(--pale-leaf);
  }
  .what {
    display: grid;
    font-size: 15px;
    line-height: 20px;
    overflow-wrap: anywhere;
  }
  .what .soft {
    font-size: 13px;
    line-height: 17px;
  }
  .kind {
    font-size: 13px;
  }
  .missed {
    color: var(--straw);
    font-weight: 700;
  }
</style>
