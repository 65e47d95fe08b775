<script lang="ts">
  import { hesitationsOf, leaveOutHesitations } from '$lib/core/wording';
  import type { Word } from '$lib/core/track';
  import { whenHandsRest } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  let hesitations = $state.raw<readonly Word[]>([]);
  const shown = $derived(hesitations.filter((word) => word.shown).length);

  /** Counted over the whole track, so only when the browser is idle. */
  $effect(() => {
    const { track } = desk;
    return whenHandsRest(() => (hesitations = hesitationsOf(track)));
  });

  function leaveOut(): void {
    desk.session.flush();
    desk.edit(leaveOutHesitations(desk.track), phrases.hesitations.theHesitationsAreLeft);
  }
  function show(): void {
    const wordIds = hesitations.filter((word) => !word.shown).map((word) => word.id);
    desk.edit([{ type: 'setWordsShown', wordIds, shown: true }], phrases.hesitations.theHesitationsAreShown);
  }
</script>

{#if hesitations.length > 0}
  <section aria-labelledby="hesitations-title">
    <h3 id="hesitations-title">{phrases.hesitations.hesitations}</h3>
    <p>
      {#if shown > 0}
        {phrases.hesitations.shown(shown, hesitations.find((word) => word.shown)?.text ?? '')}
        <button class="act" onclick={leaveOut}>{phrases.hesitations.leaveThemOut}</button>
      {:else}
        {phrases.hesitations.leftOut(hesitations.length)}
        <button class="act" onclick={show}>{phrases.hesitations.showThemAgain}</button>
      {/if}
    </p>
  </section>
{/if}

<style>
  h3 {
    margin-bottom: 6px;
    font-weight: 700;
  }
  p {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
  }
</style>
