<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { formatClock, toSpan } from '$lib/core/time';
  import { joinWords } from '$lib/core/track';
  import { bareWord } from '$lib/core/wording';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Reading } from '$lib/client/api';
  import ProgressBar from './ProgressBar.svelte';
  import type { Passage } from '$lib/client/hearing-again.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  interface Props {
    passage: Passage;
  }
  type Choice = Reading | { readonly text: string; readonly confidence: null };
  let { passage }: Props = $props();
  const desk = useTrackDesk();
  const { player } = desk;
  let dialog = $state<HTMLDialogElement | undefined>();
  let heard = $state.raw<readonly Reading[] | null>(null);
  let progress = $state(0);
  let failure = $state<string | null>(null);
  const now = $derived(joinWords(passage.words));
  const bare = (text: string): string => text.split(' ').map(bareWord).join(' ');

  $effect(() => {
    const asked = passage;
    const left = new AbortController();
    heard = null;
    progress = 0;
    failure = null;
    dialog?.focus({ preventScroll: true });
    const { signal } = left;
    api.hearAgain(desk.recording.id, asked, { signal, onProgress: (share) => (progress = share) }).then(
      (found) => (heard = found),
      (error: unknown) => !signal.aborted && (failure = messageOf(error))
    );
    return () => left.abort();
  });

  /** What the recogniser had besides, when it heard the word first. */
  const known: readonly Choice[] = $derived(
    passage.words.length === 1 ? passage.words[0]!.alternatives.map((text) => ({ text, confidence: null })) : []
  );
  /** Those known stay in front, so that no number changes under the hand; the present text is no choice. */
  const readings: readonly Choice[] = $derived.by(() => {
    const said = new Set([bare(now)]);
    return [...known, ...(heard ?? [])].filter(({ text }) => !said.has(bare(text)) && said.add(bare(text)));
  });

  const isLooping = (): boolean => player.isPlaying && player.loop !== null;

  function listen(): void {
    if (isLooping()) return player.toggle();
    player.setLoop(toSpan({ startMs: Math.max(0, passage.startMs - 60), endMs: passage.endMs + 60 }));
    player.seek(passage.startMs);
    if (!player.isPlaying) player.toggle();
  }
  function close(): void {
    if (isLooping()) player.toggle();
    desk.again.close();
  }
  function take(reading: Choice): void {
    if (isLooping()) player.toggle();
    desk.again.take(passage, reading);
  }

  function onKey(event: KeyboardEvent): void {
    const reading = /^[1-9]$/.test(event.key) ? readings[Number(event.key) - 1] : undefined;
    if (reading !== undefined) take(reading);
    else if (event.key === 'Escape') close();
    else if (event.key === ' ' && !(event.target instanceof HTMLButtonElement)) listen();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<!-- While this is open, every key goes here. -->
<dialog open tabindex="-1" bind:this={dialog} aria-labelledby="again-title" onkeydown={onKey}>
  <header>
    <h3 id="again-title">
      {phrases.hearAgain.heardAgain} <span class="mono soft">{formatClock(passage.startMs)}</span>
    </h3>
    <button class="act quiet" onclick={close} aria-label={phrases.hearAgain.closeEsc} title={phrases.hearAgain.closeEsc}
      ><X size={16} /></button
    >
  </header>
  {#if now !== ''}<p class="soft">{phrases.hearAgain.now(now)}</p>{/if}
  {#if failure !== null}
    <p class="failed" role="alert">{failure}</p>
  {:else if heard !== null && readings.length === 0}
    <p role="status">{phrases.hearAgain.nothingElseWasHeard}</p>
  {/if}
  {#if readings.length > 0}
    <ol aria-label={phrases.hearAgain.readingsBestFirst}>
      {#each readings as reading, at (reading.text)}
        <li>
          <button onclick={() => take(reading)}>
            <kbd>{at + 1}</kbd>
            <span>{reading.text}</span>
            <span class="soft mono" title={phrases.hearAgain.agreement}
              >{reading.confidence === null ? '' : `${Math.round(reading.confidence * 100)} %`}</span
            >
          </button>
        </li>
      {/each}
    </ol>
  {/if}
  {#if heard === null && failure === null}
    <div class="listening">
      <span class="soft" role="status">{phrases.hearAgain.listeningAgain}</span>
      <ProgressBar label={phrases.hearAgain.listeningAgain} {progress} />
      <button class="act quiet" onclick={close}>{phrases.hearAgain.cancel}</button>
    </div>
  {/if}
  <button class="act" onclick={listen}>{phrases.hearAgain.loopTheSound} <kbd>{phrases.hearAgain.space}</kbd></button>
</dialog>

<style>
  dialog {
    position: static;
    display: grid;
    gap: 8px;
    width: 100%;
    padding: 12px 14px;
    border: 1px solid var(--leaf);
    border-radius: 4px 18px;
    background: var(--sheet);
    color: var(--ink);
    justify-items: start;
  }
  dialog:focus {
    outline: none;
  }
  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    width: 100%;
  }
  h3 {
    font-weight: 700;
  }
  ol {
    width: 100%;
  }
  li button {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 10px;
    align-items: baseline;
    width: 100%;
    padding: 5px 6px;
    border-radius: 6px;
    text-align: left;
  }
  li button:hover,
  li button:focus-visible {
    background: var(--pale-leaf);
  }
  .listening {
    display: grid;
    grid-template-columns: auto minmax(60px, 1fr) auto;
    gap: 10px;
    align-items: center;
    width: 100%;
    font-size: 14px;
  }
  .failed {
    color: var(--clay);
  }
</style>
