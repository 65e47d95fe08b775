<script lang="ts">
  import { remarkTitle } from '$lib/client/cut-remarks.svelte';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  /** What the new cut did to a track that was carried over, to be looked through. */
  const desk = useTrackDesk();
  const remarks = $derived(desk.remarks);
  const current = $derived(remarks.current);
</script>

<section aria-labelledby="cut-title">
  <header>
    <h3 id="cut-title">{phrases.cut.changedByTheNew}</h3>
    <span class="mono soft">{phrases.cut.left(remarks.left, remarks.list.length)}</span>
  </header>
  {#if current !== null}
    <div class="remark">
      <p class="kind">{remarkTitle(current)}</p>
      {#if current.text !== ''}<p class="text">{current.text}</p>{/if}
      <p class="acts">
        <button class="act filled" onclick={() => void remarks.toggleLookedAt()}
          >{current.isLookedAt ? phrases.cut.lookAtItAgain : phrases.cut.lookedAt}</button
        >
        {#if current.kind === 'new sound'}
          <button class="act" onclick={() => remarks.hear(current)}>{phrases.cut.hearIt}</button>
        {/if}
      </p>
    </div>
  {:else if remarks.left > 0}
    <button class="act filled" onclick={() => remarks.step(1)}
      >{phrases.cut.goThroughThem} <kbd>{surfaceKey('nextRemark')}</kbd></button
    >
  {:else}
    <p class="soft">{phrases.cut.everythingThatTheNew}</p>
  {/if}
  <LongList
    label={phrases.cut.changesByTheNew}
    count={remarks.list.length}
    at={remarks.at}
    startMsOf={(at: number) => remarks.list[at]!.startMs}
    onChoose={(at: number) => remarks.choose(at)}
  >
    {#snippet text(at: number)}
      {@const remark = remarks.list[at]!}
      <span class:done={remark.isLookedAt}
        >{#if remark.isLookedAt}<span aria-hidden="true">✓</span><span class="unseen">{phrases.cut.lookedAtSign}</span
          >{/if}
        <b>{remarkTitle(remark)}</b>
        {remark.text}</span
      >
    {/snippet}
  </LongList>
</section>

<style>
  section {
    display: grid;
    gap: 12px;
  }
  section > .act {
    justify-self: start;
  }
  header {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 10px;
  }
  h3 {
    font-size: 17px;
    font-weight: 700;
  }
  .remark {
    display: grid;
    gap: 8px;
    padding: 8px 12px;
    border-left: 3px solid var(--straw);
    background: var(--sheet);
  }
  .kind {
    font-weight: 700;
  }
  .text {
    font-size: 16px;
    line-height: 1.5;
    overflow-wrap: anywhere;
    user-select: text;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
  .done {
    color: var(--soft-ink);
  }
  .done b {
    font-weight: 400;
  }
</style>
