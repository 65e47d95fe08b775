<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import type { Scope } from '$lib/client/dressing.svelte';
  import { phrases } from './phrases';

  /** For whom values are set, and what of theirs is their own. */
  const desk = useTrackDesk();
  const { dressing } = desk;
  const count = $derived(desk.cues.chosen.length);
  const scopes = $derived<readonly { readonly id: Scope; readonly label: string; readonly isThere: boolean }[]>([
    { id: 'track', label: phrases.scope.track, isThere: true },
    { id: 'speaker', label: phrases.scope.speaker, isThere: desk.track.speakers.length > 0 },
    { id: 'cues', label: phrases.scope.cues(count), isThere: count > 0 }
  ]);

  function byArrow(event: KeyboardEvent & { currentTarget: HTMLElement }, at: number): void {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const there = scopes.filter(({ isThere }) => isThere);
    const next = there[(there.indexOf(scopes[at]!) + by + there.length) % there.length]!;
    dressing.scope = next.id;
    event.currentTarget.parentElement?.querySelectorAll('button')[scopes.indexOf(next)]?.focus();
  }
</script>

<div class="scope" role="radiogroup" aria-label={phrases.scope.label}>
  {#each scopes as { id, label, isThere }, at (id)}
    <button
      role="radio"
      aria-checked={dressing.scope === id}
      tabindex={dressing.scope === id ? 0 : -1}
      disabled={!isThere}
      onclick={() => (dressing.scope = id)}
      onkeydown={(event) => byArrow(event, at)}>{label}</button
    >
  {/each}
</div>
{#if dressing.scope === 'speaker' && dressing.speaker !== null}
  <label class="who">
    <span class="soft">{phrases.scope.speakerName}</span>
    <select
      class="field"
      value={dressing.speaker.id}
      onchange={({ currentTarget }) => dressing.chooseSpeaker(currentTarget.value)}
    >
      {#each desk.track.speakers as speaker (speaker.id)}<option value={speaker.id}>{speaker.name}</option>{/each}
    </select>
  </label>
{/if}
{#if dressing.scope !== 'track'}
  <p class="own" role="status">
    {#if dressing.own.size > 0}
      <strong>{phrases.scope.ownValues(dressing.own.size)}</strong>
      <button class="act" onclick={() => dressing.letAllGo()}>{phrases.scope.asOthers}</button>
    {:else}<span class="soft">{phrases.scope.nothingOwn}</span>{/if}
  </p>
{/if}

<style>
  .scope {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    gap: 2px;
  }
  .scope button {
    min-height: 34px;
    padding: 2px 6px;
    border-bottom: 3px solid var(--rule);
    background: var(--sheet);
    cursor: pointer;
    white-space: nowrap;
  }
  .scope button:first-child {
    border-radius: 3px 0 0 0;
  }
  .scope button:last-child {
    border-radius: 0 14px 0 0;
  }
  .scope button:disabled {
    color: var(--soft-ink);
    cursor: default;
  }
  .scope [aria-checked='true'] {
    border-bottom-color: var(--leaf);
    background: var(--pale-leaf);
    font-weight: 700;
  }
  .who {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    align-items: center;
    gap: 10px;
  }
  .own {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 10px;
    min-height: 34px;
    font-size: 14px;
  }
  .own strong {
    color: var(--leaf);
  }
</style>
