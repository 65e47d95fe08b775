<script lang="ts">
  import { MOST_FADE_MS } from '$lib/core/trims';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import NumberField from '../time/NumberField.svelte';
  import { phrases } from './phrases';

  /** Where pieces meet: heard one after the other, those marked that are likely to be heard. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const { trimming } = useTrackDesk();
  const words = phrases.joins;
  const join = $derived(trimming.joins.list[trimming.joins.at]);
  const heard = $derived(trimming.joins.list.filter(({ faults }) => faults.length > 0).length);
</script>

<p role="status">{words.count(trimming.joins.list.length, heard)}</p>
{#if join !== undefined}
  <section>
    <p class="acts">
      <button class="act filled" onclick={() => onCommand('hearJoin')}
        >{words.hear} <kbd>{surfaceKey('hearJoin')}</kbd></button
      >
      <button class="act" onclick={() => onCommand('nextJoin')}>{words.next} <kbd>{surfaceKey('nextJoin')}</kbd></button
      >
      {#if join.better.length > 0}
        <button class="act" onclick={() => onCommand('betterEdge')}
          >{words.better} <kbd>{surfaceKey('betterEdge')}</kbd></button
        >
      {/if}
    </p>
    <NumberField
      label={words.fade}
      unit="ms"
      value={join.fadeMs}
      least={0}
      most={MOST_FADE_MS}
      onChange={(fadeMs: number) => void trimming.edit({ type: 'setFade', pieceId: join.afterId, fadeMs })}
    />
    <p class="edges soft">
      {words.ends} <kbd>{surfaceKey('endEarlierAtJoin')}</kbd> <kbd>{surfaceKey('endLaterAtJoin')}</kbd>
      {words.begins} <kbd>{surfaceKey('startEarlierAtJoin')}</kbd> <kbd>{surfaceKey('startLaterAtJoin')}</kbd>
    </p>
  </section>
{/if}
{#if trimming.joins.list.length > 0}
  <LongList
    label={words.list}
    count={trimming.joins.list.length}
    at={trimming.joins.at}
    startMsOf={(at: number) => trimming.joins.list[at]!.atMs}
    onChoose={(at: number) => trimming.joins.choose(trimming.joins.list[at]!.afterId)}
  >
    {#snippet text(at: number)}
      {@const { faults } = trimming.joins.list[at]!}
      {#if faults.length === 0}<span class="soft">{words.fine}</span>
      {:else}<strong class="faults">! {faults.map((fault) => words.faults[fault]).join(', ')}</strong>{/if}
    {/snippet}
  </LongList>
{/if}
{#if trimming.trim !== null}
  <NumberField
    label={words.fadeAll}
    unit="ms"
    value={trimming.trim.fadeMs}
    least={0}
    most={MOST_FADE_MS}
    onChange={(fadeMs: number) => void trimming.edit({ type: 'setFade', pieceId: null, fadeMs })}
  />
{/if}

<style>
  section {
    display: grid;
    gap: 10px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
  .faults {
    color: var(--clay);
    font-weight: 600;
  }
  .edges {
    display: flex;
    gap: 8px;
    font-size: 14px;
  }
</style>
