<script lang="ts">
  import { narratedMs } from '$lib/core/narration';
  import { formatClock, wholeMs } from '$lib/core/time';
  import type { Narration } from '$lib/client/narration/calls';
  import { phrases } from './phrases';

  /** Those that were broken off, or are spoken in another window. */
  interface Props {
    narrations: readonly Narration[];
    held: ReadonlySet<string>;
    onGoOn: (narration: Narration) => void;
    onEnd: (narration: Narration) => void;
  }
  let { narrations, held, onGoOn, onEnd }: Props = $props();
  const clock = ({ storedBytes }: Narration): string => formatClock(wholeMs(Math.round(narratedMs(storedBytes))));
</script>

<section aria-label={phrases.broken.title}>
  <h2>{phrases.broken.title}</h2>
  <ul>
    {#each narrations as narration (narration.id)}
      <li>
        <b>{narration.title}</b>
        <span class="soft">{phrases.broken.spoken(clock(narration))}</span>
        {#if held.has(narration.id)}
          <span class="soft">{phrases.broken.elsewhere}</span>
        {:else}
          <button class="act" aria-label={phrases.broken.goOnWith(narration.title)} onclick={() => onGoOn(narration)}
            >{phrases.broken.goOn}</button
          >
          <button
            class="act quiet"
            aria-label={phrases.broken.endThat(narration.title)}
            onclick={() => onEnd(narration)}>{phrases.broken.end}</button
          >
        {/if}
      </li>
    {/each}
  </ul>
</section>

<style>
  h2 {
    margin-bottom: 6px;
    font-size: 16px;
    font-weight: 700;
  }
  li {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 4px 0;
  }
</style>
