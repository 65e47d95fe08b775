<script lang="ts">
  import { whenHandsRest } from '$lib/client/rest';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { plural } from '$lib/core/plural';
  import { phrases } from './phrases';

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

<strong>{plural(counts.shown, 'word')}</strong> <span>{phrases.foot.corrected(counts.corrected)}</span>

<style>
  strong {
    color: var(--ink);
  }
</style>
