<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { goto } from '$app/navigation';
  import { untrack } from 'svelte';
  import { get } from 'svelte/store';
  import type { Job, ListedRecording } from '$lib/client/api';
  import { library } from '$lib/client/library.svelte';
  import { firstPlaceOf } from '$lib/client/places';
  import Row from './Row.svelte';
  import { phrases } from './phrases';

  /** The recordings down the page, of which only what is in sight is drawn and fetched. */
  interface Props {
    jobs: Readonly<Record<string, Job>>;
    onTitle: (recording: ListedRecording, title: string) => void;
    onCut: (recording: ListedRecording) => void;
    onBin: (recordings: readonly ListedRecording[] | 'chosen') => void;
    onGoOn: (recording: ListedRecording) => void;
    onBundle: (recordings: readonly ListedRecording[] | 'chosen') => void;
    onFind: () => void;
  }
  let { jobs, onTitle, onCut, onBin, onGoOn, onBundle, onFind }: Props = $props();

  const ROW_PX = 66;
  let box = $state<HTMLElement | undefined>();
  let renaming = $state<string | null>(null);
  const projectNames = $derived(new Map(library.projects.map(({ id, name }) => [id, name])));

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => ROW_PX
  });
  $effect(() => {
    const element = box ?? null;
    const count = library.total ?? 0;
    untrack(() =>
      get(virtual).setOptions({ count, getScrollElement: () => element, estimateSize: () => ROW_PX, overscan: 6 })
    );
  });
  $effect(() => {
    const rows = $virtual.getVirtualItems();
    if (rows.length > 0) untrack(() => library.see(rows[0]!.index, rows.at(-1)!.index));
  });

  function go(to: number, event: KeyboardEvent): void {
    const at = Math.min(Math.max(to, 0), (library.total ?? 1) - 1);
    get(virtual).scrollToIndex(at, { align: 'auto' });
    if (event.shiftKey) void library.choose(at, { shiftKey: true, ctrlKey: false });
    else library.at = at;
  }
  function open(recording: ListedRecording | null): void {
    if (recording?.canGoOn === true) onGoOn(recording);
    if (recording === null || recording.state === 'failed') return;
    void goto(firstPlaceOf(recording));
  }

  function onKey(event: KeyboardEvent): void {
    if (event.target !== box) return;
    const recording = library.row(library.at);
    const isControl = event.ctrlKey || event.metaKey;
    const done = ((): boolean => {
      switch (event.key) {
        case 'ArrowDown':
          go(library.at + 1, event);
          return true;
        case 'ArrowUp':
          go(library.at - 1, event);
          return true;
        case 'PageDown':
          go(library.at + 8, event);
          return true;
        case 'PageUp':
          go(library.at - 8, event);
          return true;
        case 'Home':
          go(0, event);
          return true;
        case 'End':
          go(Number.MAX_SAFE_INTEGER, event);
          return true;
        case ' ':
          void library.choose(library.at, { shiftKey: event.shiftKey, ctrlKey: true });
          return true;
        case 'a':
          if (isControl) void library.chooseAll();
          return isControl;
        case 'Escape':
          library.letGo();
          return true;
        case 'Enter':
          open(recording);
          return true;
        case 'h':
          if (recording !== null && recording.state !== 'failed') void goto(`/recordings/${recording.id}/hear`);
          return true;
        case 'c':
          if (recording?.state === 'ready' && recording.tracks.length > 0) onCut(recording);
          return !isControl;
        case 'b':
          if (isControl) return false;
          if (library.chosen.size > 0) onBundle('chosen');
          else if (recording !== null) onBundle([recording]);
          return true;
        case 'F2':
          renaming = recording?.id ?? null;
          return true;
        case 'Delete':
          if (library.chosen.size > 0) onBin('chosen');
          else if (recording !== null) onBin([recording]);
          return true;
        case '/':
          onFind();
          return true;
        default:
          return false;
      }
    })();
    if (done) event.preventDefault();
  }
  const isControlOf = (target: EventTarget | null): boolean =>
    target instanceof Element && target.closest('a, button, input') !== null;

  export function focus(): void {
    box?.focus();
  }
</script>

<!-- The list takes the keys as one control; what stands in a row is reached by them or by the pointer. -->
<div
  class="list"
  role="grid"
  aria-multiselectable="true"
  aria-rowcount={library.total}
  aria-label={phrases.list}
  aria-activedescendant={library.row(library.at) === null ? undefined : `recording-${library.row(library.at)!.id}`}
  tabindex="0"
  data-surface
  bind:this={box}
  onkeydown={onKey}
>
  <div class="rows" role="rowgroup" style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const recording = library.row(item.index)}
      <div
        class="row"
        class:here={item.index === library.at}
        class:chosen={recording !== null && library.chosen.has(recording.id)}
        role="row"
        id={recording === null ? undefined : `recording-${recording.id}`}
        aria-label={recording?.title}
        aria-selected={recording !== null && library.chosen.has(recording.id)}
        aria-rowindex={item.index + 1}
        tabindex="-1"
        style:height="{item.size}px"
        style:transform="translateY({item.start}px)"
        onclick={(event) => {
          if (isControlOf(event.target)) return;
          box?.focus();
          void library.choose(item.index, { shiftKey: event.shiftKey, ctrlKey: event.ctrlKey || event.metaKey });
        }}
        ondblclick={(event) => {
          if (!isControlOf(event.target)) open(recording);
        }}
        onkeydown={() => undefined}
      >
        {#if recording === null}
          <span role="gridcell" class="coming"></span>
        {:else}
          <Row
            {recording}
            job={jobs[recording.id]}
            project={recording.projectId === undefined ? undefined : projectNames.get(recording.projectId)}
            isChosen={library.chosen.has(recording.id)}
            isRenaming={renaming === recording.id}
            onToggle={() => void library.choose(item.index, { shiftKey: false, ctrlKey: true })}
            onRename={(isRenaming: boolean) => {
              renaming = isRenaming ? recording.id : null;
              if (!isRenaming) box?.focus();
            }}
            onTitle={(title: string) => onTitle(recording, title)}
            onCut={() => onCut(recording)}
            onBin={() => onBin([recording])}
            onGoOn={() => onGoOn(recording)}
          />
        {/if}
      </div>
    {/each}
  </div>
</div>

<style>
  .list {
    min-height: 0;
    overflow-y: auto;
  }
  .rows {
    position: relative;
  }
  .row {
    position: absolute;
    top: 0;
    left: 0;
    display: grid;
    grid-template-columns: 18px 22px minmax(0, 1fr) minmax(140px, 230px) 62px 148px 88px;
    align-items: center;
    gap: 14px;
    width: 100%;
    padding: 0 10px 0 18px;
    border-bottom: 1px solid var(--rule);
    cursor: default;
  }
  .row:hover {
    background: color-mix(in oklab, var(--pale-leaf), transparent 60%);
  }
  .row.chosen {
    background: var(--pale-leaf);
  }
  .list:focus-visible .row.here {
    outline: 2px solid var(--grape);
    outline-offset: -2px;
  }
  .coming {
    grid-column: 3;
    height: 12px;
    width: 40%;
    border-radius: 6px;
    background: var(--rule);
  }
</style>
