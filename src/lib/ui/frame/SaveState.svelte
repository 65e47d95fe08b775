<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const session = $derived(desk.document);

  const said = $derived(
    {
      saved: phrases.saveState.saved,
      saving: phrases.saveState.saving,
      later: session.notKept === null ? phrases.saveState.notSentKeptHere : phrases.saveState.notSent,
      'sign in': phrases.saveState.notSignedIn
    }[session.saveState]
  );
  const isWaiting = $derived(session.saveState === 'later' || session.saveState === 'sign in');
</script>

<span class:bad={isWaiting} role="status" title={session.trouble} data-testid="save-state">{said}</span>
{#if session.saveState === 'sign in'}
  <a class="act warn" href="/" target="_blank" rel="noopener">{phrases.saveState.signInAgain}</a>
{:else if session.saveState === 'later'}
  <button class="act quiet" title={session.trouble} onclick={() => session.tryNow()}>{phrases.saveState.tryNow}</button>
{/if}

<style>
  span {
    color: var(--soft-ink);
    font-size: 14px;
    white-space: nowrap;
  }
  .bad {
    color: var(--clay);
    font-weight: 600;
  }
</style>
