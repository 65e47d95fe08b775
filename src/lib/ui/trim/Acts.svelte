<script lang="ts">
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** What can be done with what is chosen. */
  const { trimming } = useTrackDesk();
  const words = phrases.acts;
  const KEYS = { close: 'takeOut', gap: 'takeOutGap', silence: 'silence' } as const;
  const chosenMs = $derived(trimming.choice?.spans.reduce((sum, { fromMs, toMs }) => sum + toMs - fromMs, 0) ?? 0);
</script>

{#snippet act(id: CommandId, label: string, run: () => void, isFilled = false)}
  <button class={['act', isFilled && 'filled']} onclick={run}>{label} <kbd>{surfaceKey(id)}</kbd></button>
{/snippet}

<div class="acts" role="group" aria-label={words.label}>
  {#if trimming.pickedUp !== null}
    <span class="mono">{words.picked(trimming.pickedUp.toMs - trimming.pickedUp.fromMs)}</span>
    {@render act('putDown', words.putDown, () => trimming.putDown(), true)}
    {@render act('putDownAgain', words.again, () => trimming.putDown({ again: true }))}
  {:else if trimming.chosenPause !== null}
    <span class="mono">{words.pauseChosen(trimming.chosenPause.lengthMs)}</span>
    {@render act('takeOut', words.close, () => trimming.toggle('close'), true)}
  {:else if chosenMs > 0}
    <span class="mono" data-testid="chosen">{words.chosen(chosenMs)}</span>
    {#each ['close', 'gap', 'silence'] as const as how (how)}
      {@render act(
        KEYS[how],
        trimming.isSo(how) ? words.putBack : words[how],
        () => trimming.toggle(how),
        how === 'close'
      )}
    {/each}
    {@render act('pickUp', words.pickUp, () => trimming.pickUp())}
  {:else}
    <span class="soft">{words.about}</span>
  {/if}
</div>

<style>
  .acts {
    display: flex;
    gap: 8px;
    align-items: center;
    min-height: 46px;
    padding: 5px 20px;
    border-top: 1px solid var(--rule);
    overflow: hidden;
    font-size: 14px;
  }
  .acts .mono {
    margin-right: 6px;
    white-space: nowrap;
  }
  .filled kbd {
    color: inherit;
  }
</style>
