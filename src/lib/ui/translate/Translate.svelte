<script lang="ts">
  import { onMount } from 'svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Begin from './Begin.svelte';
  import Clipboard from './Clipboard.svelte';
  import DraftDialog from './DraftDialog.svelte';
  import Head from './Head.svelte';
  import Rows from './Rows.svelte';
  import TermsDialog from './TermsDialog.svelte';
  import { phrases } from './phrases';

  /** A track in another language, row by row beside its source; for a track that translates none, its translations. */
  const desk = useTrackDesk();
  const { translating } = desk;
  let surface = $state<{ focus(): void; enter(): void } | undefined>();

  onMount(() => {
    const end = translating.follow();
    desk.surface = {
      focus: () => surface?.focus(),
      enter: () => surface?.enter(),
      stepRow: (by) => translating.step(by)
    };
    return () => {
      desk.surface = null;
      end();
    };
  });
  $effect(() => translating.recall());
</script>

{#if !translating.isTranslation}
  <Begin />
{:else}
  <div class="translate">
    <Head />
    {#if translating.failure !== null && translating.source === null}
      <p class="none" role="alert">{translating.failure} {phrases.rows.noSource}</p>
    {:else if translating.source === null}
      <p class="none soft" role="status">{phrases.rows.loading}</p>
    {:else if translating.isClipboardOpen}<Clipboard />
    {:else}<Rows bind:this={surface} />{/if}
  </div>
  {#if translating.isDraftOpen}<DraftDialog />{/if}
  {#if translating.areTermsOpen}<TermsDialog />{/if}
{/if}

<style>
  .translate {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    height: 100%;
    min-height: 0;
    background: var(--sheet);
  }
  .none {
    max-width: 60ch;
    padding: 40px 28px;
  }
</style>
