<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const session = $derived(desk.document);

  /** What only this window holds would be lost, so the browser asks before closing. */
  function guard(event: BeforeUnloadEvent): void {
    session.flush();
    if (session.notKept !== null && session.saveState !== 'saved') event.preventDefault();
  }
</script>

<svelte:window onbeforeunload={guard} />

<div>
  {#if session.notKept !== null}
    <p role="alert">
      <strong>{phrases.unkept.thisBrowserKeepsNothing}</strong>
      {phrases.unkept.leaveTheWindowOpen}
      <span>{phrases.unkept.itSays(session.notKept)}</span>
    </p>
  {/if}
</div>

<style>
  p {
    padding: 6px 22px;
    border-bottom: 1px solid var(--rule);
    background: var(--sheet);
    color: var(--clay);
    font-size: 14px;
  }
  span {
    color: var(--soft-ink);
  }
</style>
