<script lang="ts">
  import Redo from '@lucide/svelte/icons/redo-2';
  import Undo from '@lucide/svelte/icons/undo-2';
  import type { CommandId } from '$lib/client/keys/commands';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const session = $derived(desk.document);
  const isUnsaved = $derived(session.saveState !== 'saved');
  /** What is not saved yet can be undone, and has no name yet. */
  const undo = $derived(session.history.undo ?? (isUnsaved ? phrases.undoRedo.theLastChange : null));
  const { redo } = $derived(session.history);
</script>

<span role="group" aria-label={phrases.undoRedo.label}>
  <button
    class="icon"
    disabled={undo === null}
    aria-label={undo === null ? phrases.undoRedo.nothingToUndo : phrases.undoRedo.undo(undo)}
    title={undo === null ? phrases.undoRedo.nothingToUndo : phrases.undoRedo.undoHint(undo, surfaceKey('undo'))}
    onclick={() => onCommand('undo')}><Undo size={17} /></button
  >
  <button
    class="icon"
    disabled={redo === null}
    aria-label={redo === null ? phrases.undoRedo.nothingToRedo : phrases.undoRedo.redo(redo)}
    title={redo === null ? phrases.undoRedo.nothingToRedo : phrases.undoRedo.redoHint(redo, surfaceKey('redo'))}
    onclick={() => onCommand('redo')}><Redo size={17} /></button
  >
</span>

<style>
  span {
    display: flex;
  }
</style>
