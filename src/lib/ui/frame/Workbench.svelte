<script lang="ts">
  import { goto } from '$app/navigation';
  import type { Snippet } from 'svelte';
  import { languageName } from '$lib/core/track';
  import type { CommandId } from '$lib/client/keys/commands';
  import { PLACES } from '$lib/client/places';
  import { PLACE_PARTS } from '../places';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import HearAgain from './HearAgain.svelte';
  import KeysDialog from './KeysDialog.svelte';
  import Picture from './Picture.svelte';
  import Proposal from './Proposal.svelte';
  import TopBar from './TopBar.svelte';
  import Transport from './Transport.svelte';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { trackLabels } from '$lib/client/track-labels';
  import SaveState from './SaveState.svelte';
  import SeenAs from './SeenAs.svelte';
  import Unapplied from './Unapplied.svelte';
  import UndoRedo from './UndoRedo.svelte';
  import Unkept from './Unkept.svelte';
  import { phrases } from './phrases';

  interface Props {
    place: keyof typeof PLACE_PARTS;
    onCommand: (id: CommandId) => void;
    areKeysOpen: boolean;
    onKeys: (isOpen: boolean) => void;
    children: Snippet;
  }
  let { place, onCommand, areKeysOpen, onKeys, children }: Props = $props();
  const desk = useTrackDesk();
  const { recording, session } = desk;
  const base = `/recordings/${recording.id}/tracks/${session.trackId}`;
  const places = PLACES.map(({ id }) => ({
    place: id,
    href: id === 'hear' ? `/recordings/${recording.id}/hear` : `${base}/${id}`
  }));
  const parts = $derived(PLACE_PARTS[place]);
  /** What is shown there may be of a trim. */
  const SEES_TRIMS: readonly (typeof place)[] = ['time', 'check', 'hand-over'];
  $effect(() => desk.keepChoice());

  /** Its recording lists it no more; what is done here is kept all the same. */
  let isBinned = $state(!recording.tracks.some(({ id }) => id === session.trackId));
  async function bringBack(): Promise<void> {
    try {
      await api.restoreTrack(session.trackId);
      isBinned = false;
    } catch (error) {
      desk.say(messageOf(error));
    }
  }
</script>

<svelte:head><title>{phrases.workbench.pageTitle(recording.title)}</title></svelte:head>

<div class="bench" data-place={place}>
  <TopBar title={recording.title} {places} here={place} onKeys={() => onKeys(true)}>
    {#snippet about()}
      {#if recording.tracks.length > 1}
        <label class="unseen" for="track">{phrases.workbench.track}</label>
        <select
          id="track"
          class="soft"
          value={session.trackId}
          onchange={(event) => {
            session.flush();
            void goto(`/recordings/${recording.id}/tracks/${event.currentTarget.value}/${place}`);
          }}
        >
          {#each trackLabels(recording) as [id, label] (id)}<option value={id}>{label}</option>{/each}
        </select>
      {:else}<span class="soft">{languageName(session.track.language)} {session.track.kind}</span>{/if}
      {#if SEES_TRIMS.includes(place)}<SeenAs />{/if}
    {/snippet}
    {#snippet status()}
      {#if desk.hearing !== null}
        <span class="saved" role="status">{phrases.workbench.stillHeard(Math.round(desk.hearing.progress * 100))}</span>
      {/if}
      <Unapplied />
      <UndoRedo {onCommand} />
      <SaveState />
    {/snippet}
  </TopBar>
  <div>
    <Unkept />
    {#if isBinned}
      <p class="binned" role="status">
        {phrases.workbench.inBin}
        <button class="act" onclick={() => void bringBack()}>{phrases.workbench.bringBack}</button>
      </p>
    {/if}
  </div>
  <main class:wide={parts.isWide}>
    <section class="surface" class:stripped={parts.Strip !== null}>
      {#if parts.Strip}<parts.Strip {onCommand} />{/if}
      {@render children()}
    </section>
    <aside aria-label={phrases.workbench.pictureAndCue}>
      <Picture Over={parts.OnPicture} isLarge={parts.isWide} />
      {#if parts.Below}<parts.Below />{/if}
      {#if parts.Panel}
        <div class="beside">
          {#if desk.proposals[0] !== undefined}
            <Proposal proposal={desk.proposals[0]} onChange={() => desk.loadProposals()} />
          {/if}
          {#if desk.again.passage !== null}<HearAgain passage={desk.again.passage} />{/if}
          <parts.Panel {onCommand} />
        </div>
      {/if}
    </aside>
  </main>
  <Transport {onCommand}>
    {#snippet end()}<parts.Foot />{/snippet}
  </Transport>
</div>
<KeysDialog isOpen={areKeysOpen} onClose={() => onKeys(false)} />

<style>
  .bench {
    display: grid;
    grid-template-rows: 52px auto minmax(0, 1fr) 52px;
    grid-template-columns: minmax(0, 1fr);
    height: 100vh;
    min-width: 1000px;
  }
  main {
    display: grid;
    grid-template-columns: minmax(0, 1fr) clamp(320px, 30.7vw, 460px);
    min-height: 0;
  }
  .surface {
    min-width: 0;
    min-height: 0;
    overflow: hidden;
  }
  .surface.stripped {
    display: grid;
    grid-template-rows: 36px minmax(0, 1fr);
    grid-template-columns: minmax(0, 1fr);
  }
  aside {
    display: flex;
    flex-direction: column;
    gap: 16px;
    min-height: 0;
    padding: 14px 16px 0;
    border-left: 1px solid var(--rule);
    background: var(--paper);
  }
  /* The picture stays in sight. */
  aside > :global(:first-child) {
    flex: none;
  }
  .beside {
    display: flex;
    flex: 1;
    flex-direction: column;
    gap: 16px;
    min-height: 0;
    margin: 0 -16px;
    padding: 2px 16px 14px;
    overflow-y: auto;
  }
  /* Where the picture is what is worked on, the same element stands large on the left. */
  main.wide {
    grid-template-columns: minmax(0, 1fr) 340px;
  }
  main.wide aside {
    grid-column: 1;
    grid-row: 1;
    justify-content: center;
    border-left: none;
    background: var(--sheet);
  }
  main.wide .surface {
    grid-column: 2;
    grid-row: 1;
    border-left: 1px solid var(--rule);
  }
  select {
    max-width: 220px;
    padding: 2px 0;
    border: none;
    background: transparent;
    cursor: pointer;
  }
  .binned {
    display: flex;
    align-items: center;
    gap: 14px;
    padding: 6px 18px;
    background: color-mix(in oklab, var(--straw), var(--paper) 82%);
  }
  .saved {
    color: var(--soft-ink);
    font-size: 14px;
    white-space: nowrap;
  }
</style>
