<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { REPAIRS, repairsDone } from '$lib/core/wording';
  import { titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();

  /** What the chosen words are already, so that a press takes it back; as one text, so that a letter that changes none
   * of it draws no button anew. */
  const doneText = $derived([...repairsDone(desk.runOf(desk.chosenIds))].join(' '));
  const done = $derived(new Set(doneText.split(' ')));
  const TOGGLES = new Set<string>(REPAIRS.filter((repair) => !['noMark', 'join', 'remove'].includes(repair)));

  /** What stands on each button: the sign itself where there is one. */
  const SIGNS: readonly (readonly (readonly [CommandId, string])[])[] = [
    [
      ['capital', phrases.repairs.capital],
      ['allCapitals', 'AA']
    ],
    [
      ['sentenceEnd', '.'],
      ['comma', ','],
      ['question', '?'],
      ['exclamation', '!'],
      ['colon', ':'],
      ['semicolon', ';'],
      ['dash', '—'],
      ['quotes', '“ ”'],
      ['brackets', '( )'],
      ['noMark', phrases.repairs.noMarks]
    ],
    [
      ['join', phrases.repairs.join],
      ['leaveOut', phrases.repairs.leaveOut],
      ['paragraph', '¶'],
      ['nextSpeaker', phrases.repairs.speaker],
      ['describeSound', '[ ]']
    ]
  ];
</script>

<!-- A press leaves the selection in the page as it is. -->
<div
  role="toolbar"
  aria-label={phrases.repairs.repairsOfTheChosen}
  tabindex="-1"
  onmousedown={(event) => event.preventDefault()}
>
  {#each SIGNS as group, at (at)}
    <span class="group">
      {#each group as [id, sign] (id)}
        <button
          title={titleOf(id)}
          aria-label={titleOf(id)}
          aria-pressed={TOGGLES.has(id) ? done.has(id) : undefined}
          onclick={() => onCommand(id)}>{sign}</button
        >
      {/each}
    </span>
  {/each}
</div>

<style>
  [role='toolbar'] {
    display: flex;
    gap: 12px;
    align-items: center;
    height: 36px;
    padding: 0 16px;
    border-bottom: 1px solid var(--rule);
    background: var(--paper);
    overflow-x: auto;
  }
  .group {
    display: flex;
    gap: 3px;
  }
  button {
    min-width: 28px;
    height: 28px;
    padding: 0 6px;
    border-radius: 3px 9px 3px 9px;
    border: 1px solid var(--rule);
    background: var(--sheet);
    color: var(--ink);
    font-size: 15px;
    white-space: nowrap;
  }
  @media (max-width: 1180px) {
    [role='toolbar'] {
      gap: 7px;
      padding: 0 8px;
    }
    .group {
      gap: 2px;
    }
    button {
      min-width: 25px;
      padding: 0 4px;
    }
  }
  button[aria-pressed='true'] {
    border-color: var(--leaf);
    background: var(--pale-leaf);
    font-weight: 700;
  }
  button:hover {
    background: var(--pale-leaf);
    color: var(--ink);
  }
</style>
