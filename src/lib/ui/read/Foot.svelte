<script lang="ts">
  import { whenHandsRest } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { plural } from '../plural';

  const desk = useTrackDesk();
  let counts = $state.raw({ shown: 0, corrected: 0 });
  $effect(() => {
    const { words } = desk.track;
    const count = (): void => {
      counts = {
        shown: words.filter((word) => word.shown).length,
        corrected: words.filter((word) => word.correctedAt !== null).length
      };
    };
    return whenHandsRest(count);
  });
</script>

<div class="end">
  <strong>{plural(counts.shown, 'word')}</strong> <span>{counts.corrected} corrected</span>
</div>

<style>
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
</style>
