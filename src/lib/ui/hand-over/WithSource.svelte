<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Whether a translation goes with its source above it; nothing for a track that translates none. */
  const { translating } = useTrackDesk();
  $effect(() => {
    if (translating.goesWithSource && translating.source === null) void translating.loadSource();
  });
</script>

{#if translating.isTranslation}
  <label
    ><input type="checkbox" bind:checked={translating.goesWithSource} />
    {phrases.handOver.withSource}</label
  >
  {#if translating.goesWithSource && translating.failure !== null}<p class="failure" role="alert">
      {translating.failure}
    </p>{/if}
{/if}

<style>
  label {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .failure {
    color: var(--clay);
  }
</style>
