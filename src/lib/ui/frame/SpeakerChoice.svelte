<script lang="ts">
  import type { Word } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Says who speaks these words; somebody new is the last choice. */
  interface Props {
    label: string;
    words: readonly Word[];
  }
  let { label, words }: Props = $props();
  const desk = useTrackDesk();
  const NEW = 'new';
  const speakerId = $derived(words[0]?.speakerId ?? '');

  function choose(event: Event & { currentTarget: HTMLSelectElement }): void {
    const { value } = event.currentTarget;
    desk.page.giveTo(value === NEW ? null : value, words);
    event.currentTarget.value = desk.page.paragraphOf(words[0]?.id ?? null)[0]?.speakerId ?? '';
    desk.surface?.focus();
  }
</script>

<select aria-label={label} value={speakerId} onchange={choose} disabled={words.length === 0}>
  {#if speakerId === ''}<option value="" disabled>{phrases.speakerChoice.noSpeaker}</option>{/if}
  {#each desk.track.speakers as speaker (speaker.id)}<option value={speaker.id}>{speaker.name}</option>{/each}
  <option value={NEW}>{phrases.speakerChoice.newSpeaker}</option>
</select>

<style>
  select {
    max-width: 100%;
    padding: 0 2px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: transparent;
    color: inherit;
    font: inherit;
    cursor: pointer;
  }
  select:hover:not(:disabled) {
    border-color: var(--rule);
    background: var(--sheet);
  }
</style>
