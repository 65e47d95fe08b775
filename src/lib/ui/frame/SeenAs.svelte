<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Whether a place shows the captions as they were recorded or as they are of a trim; nothing where there is no trim. */
  const desk = useTrackDesk();
  const { trimming } = desk;
  const words = phrases.seenAs;

  async function trying(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      desk.say(messageOf(error));
    }
  }
  // What was trimmed meanwhile is seen as it is now.
  onMount(() => void trying(() => trimming.loadList().then(() => trimming.seen.see(trimming.seen.id))));
</script>

{#if trimming.list.length > 0}
  <label class="seen" class:trimmed={trimming.seen.id !== null}>
    <span class="unseen">{words.label}</span>
    <select
      class="soft"
      value={trimming.seen.id ?? ''}
      data-testid="seen-as"
      onchange={(event) => {
        const { value } = event.currentTarget;
        void trying(() => trimming.seen.see(value === '' ? null : value));
      }}
    >
      <option value="">{words.recorded}</option>
      {#each trimming.list as { id, title } (id)}<option value={id}>{words.trimmed(title)}</option>{/each}
    </select>
  </label>
{/if}

<style>
  .seen {
    display: flex;
    gap: 8px;
    align-items: center;
    font-size: 14px;
    white-space: nowrap;
  }
  select {
    max-width: 150px;
    padding: 2px 0;
    border: none;
    background: transparent;
    cursor: pointer;
  }
  .trimmed select {
    color: var(--leaf);
    font-weight: 700;
  }
</style>
