<script lang="ts">
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Hesitations from './Hesitations.svelte';
  import LongList from '../frame/LongList.svelte';
  import Speakers from './Speakers.svelte';
  import { paragraphsOf } from './page-model';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const paragraphs = $derived(paragraphsOf(desk.track));
  /** The paragraph that is spoken, or chosen. */
  const here = $derived.by(() => {
    const id = desk.spokenWordId ?? desk.wordId;
    return id === null ? -1 : paragraphs.findIndex(({ words }) => words.some((word) => word.id === id));
  });
</script>

<Speakers />
<Hesitations />
<section aria-labelledby="outline-title">
  <h3 id="outline-title">{paragraphs.length} {paragraphs.length === 1 ? 'paragraph' : 'paragraphs'}</h3>
  <LongList
    label={phrases.outline.paragraphs}
    count={paragraphs.length}
    at={here}
    startMsOf={(at: number) => paragraphs[at]!.startMs}
    onChoose={(at: number) => desk.chooseWord(paragraphs[at]!.words[0])}
  >
    {#snippet text(at: number)}
      {@const paragraph = paragraphs[at]!}
      {#if paragraph.speaker !== null}<b>{paragraph.speaker}</b>{/if}
      {paragraph.text.slice(0, 120)}
    {/snippet}
  </LongList>
</section>

<style>
  h3 {
    margin-bottom: 6px;
    font-weight: 700;
  }
  b {
    color: var(--leaf);
  }
</style>
