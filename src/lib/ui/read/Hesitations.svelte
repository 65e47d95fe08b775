<script lang="ts">
  import { hesitationsOf, leaveOutHesitations } from '$lib/core/wording';
  import type { Word } from '$lib/core/track';
  import { whenHandsRest } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';

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
    desk.edit(leaveOutHesitations(desk.track), 'The hesitations are left out. Undo brings them back.');
  }
  function show(): void {
    const wordIds = hesitations.filter((word) => !word.shown).map((word) => word.id);
    desk.edit([{ type: 'setWordsShown', wordIds, shown: true }], 'The hesitations are shown again.');
  }
</script>

{#if hesitations.length > 0}
  <section aria-labelledby="hesitations-title">
    <h3 id="hesitations-title">Hesitations</h3>
    <p>
      {#if shown > 0}
        {shown} such as “{hesitations.find((word) => word.shown)?.text}”, dotted on the page
        <button class="act" onclick={leaveOut}>Leave them out</button>
      {:else}
        {hesitations.length} left out
        <button class="act" onclick={show}>Show them again</button>
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
