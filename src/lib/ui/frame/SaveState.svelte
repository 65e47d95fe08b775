<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';

  const { session } = useTrackDesk();

  const said = $derived(
    {
      saved: 'Saved',
      saving: 'Saving…',
      later: session.notKept === null ? 'Not sent: kept here' : 'Not sent',
      'sign in': 'Not signed in'
    }[session.saveState]
  );
  const isWaiting = $derived(session.saveState === 'later' || session.saveState === 'sign in');
</script>

<span class:bad={isWaiting} role="status" title={session.trouble} data-testid="save-state">{said}</span>
{#if session.saveState === 'sign in'}
  <a class="act warn" href="/" target="_blank" rel="noopener">Sign in again</a>
{:else if session.saveState === 'later'}
  <button class="act quiet" title={session.trouble} onclick={() => session.tryNow()}>Try now</button>
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
