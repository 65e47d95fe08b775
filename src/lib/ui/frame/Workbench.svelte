<script lang="ts">
  import type { Snippet } from 'svelte';
  import { readingSpeed } from '$lib/core/track';
  import type { CommandId, Place } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useWorkspace } from '$lib/client/workspace.svelte';
  import Panel from '../read/Panel.svelte';
  import TimePanel from '../time/Panel.svelte';
  import Strip from '../time/Strip.svelte';
  import Repairs from '../read/Repairs.svelte';
  import HearAgain from './HearAgain.svelte';
  import KeysDialog from './KeysDialog.svelte';
  import Picture from './Picture.svelte';
  import Proposal from './Proposal.svelte';
  import TopBar from './TopBar.svelte';
  import Transport from './Transport.svelte';
  import { languageName } from '$lib/client/languages';
  import SaveState from './SaveState.svelte';
  import Unapplied from './Unapplied.svelte';

  interface Props {
    place: Place;
    onCommand: (id: CommandId) => void;
    areKeysOpen: boolean;
    onKeys: (isOpen: boolean) => void;
    children: Snippet;
  }
  let { place, onCommand, areKeysOpen, onKeys, children }: Props = $props();
  const workspace = useWorkspace();
  const { recording, session } = workspace;
  const base = `/recordings/${recording.id}/tracks/${session.trackId}`;
  const places = [
    { place: 'hear' as const, href: `/recordings/${recording.id}/hear` },
    ...(['read', 'time', 'dress', 'hand-over'] as const).map((one) => ({ place: one, href: `${base}/${one}` }))
  ];
  const TIMING: readonly Place[] = ['read', 'time'];
  const wide = $derived(place === 'dress');
  /** Counts over the whole track: taken when nothing else is to be done, so that no key waits for them. */
  let tally = $state.raw({ tooFast: 0, shownWords: 0, corrected: 0 });
  $effect(() => {
    const { track } = workspace;
    const asked = requestIdleCallback(
      () => {
        tally = {
          tooFast: track.cues.filter((cue) => readingSpeed(track, cue) > track.rules.maxCharsPerSecond).length,
          shownWords: track.words.filter((word) => word.shown).length,
          corrected: track.words.filter((word) => word.correctedAt !== null).length
        };
      },
      { timeout: 1000 }
    );
    return () => cancelIdleCallback(asked);
  });
  $effect(() => workspace.keepChoice());

  const plural = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;
</script>

<svelte:head><title>{recording.title} · Vine Tap</title></svelte:head>

<div class="bench" data-place={place}>
  <TopBar
    title={recording.title}
    subtitle="{languageName(session.track.language)} {session.track.kind}"
    {places}
    here={place}
    onKeys={() => onKeys(true)}
  >
    {#snippet status()}
      {#if workspace.hearing !== null}
        <span class="saved" role="status">Still being heard, {Math.round(workspace.hearing.progress * 100)} %</span>
      {/if}
      <Unapplied />
      <SaveState />
    {/snippet}
  </TopBar>
  <main class:wide>
    <section class="surface" class:stripped={TIMING.includes(place)}>
      {#if place === 'read'}<Repairs {onCommand} />{:else if place === 'time'}<Strip {onCommand} />{/if}
      {@render children()}
    </section>
    <aside aria-label="Picture and cue">
      <Picture />
      {#if !wide && place !== 'hand-over'}
        <div class="beside">
          {#if workspace.proposals[0] !== undefined && TIMING.includes(place)}
            <Proposal proposal={workspace.proposals[0]} onChange={() => workspace.loadProposals()} />
          {/if}
          {#if workspace.again.passage !== null}<HearAgain passage={workspace.again.passage} />{/if}
          {#if place === 'read'}
            <Panel {onCommand} />
          {:else}
            <TimePanel {onCommand} />
          {/if}
        </div>
      {/if}
    </aside>
  </main>
  <Transport>
    {#snippet end()}
      {#if place === 'time'}
        <div class="end">
          <span class:too-fast={tally.tooFast > 0}
            >{tally.tooFast === 0
              ? `${plural(workspace.track.cues.length, 'cue')}, none too fast`
              : `${plural(tally.tooFast, 'cue')} too fast`}</span
          >
          <label class="zoom soft"
            ><span>4 s</span>
            <input
              type="range"
              min="4000"
              max="40000"
              step="1000"
              value={preferences.rowMs}
              oninput={(event) => preferences.set({ rowMs: Number(event.currentTarget.value) })}
              aria-label="Seconds a row"
              title="Length of a row (= and -)"
            />
            <span>{preferences.rowMs / 1000} s a row</span></label
          >
        </div>
      {:else}
        <div class="end">
          <strong>{plural(tally.shownWords, 'word')}</strong> <span>{tally.corrected} corrected</span>
        </div>
      {/if}
    {/snippet}
  </Transport>
</div>
<KeysDialog isOpen={areKeysOpen} onClose={() => onKeys(false)} />

<style>
  .bench {
    display: grid;
    grid-template-rows: 52px minmax(0, 1fr) 52px;
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
  .saved {
    color: var(--soft-ink);
    font-size: 14px;
    white-space: nowrap;
  }
  .end {
    display: flex;
    align-items: center;
    gap: 16px;
    color: var(--soft-ink);
    font-size: 14px;
    white-space: nowrap;
  }
  .end strong {
    color: var(--ink);
  }
  .too-fast {
    color: var(--clay);
    font-weight: 700;
  }
  .zoom {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  .zoom input {
    width: 110px;
  }
  .zoom span:last-child {
    min-width: 86px;
  }
</style>
