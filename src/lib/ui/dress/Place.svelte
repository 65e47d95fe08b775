<script lang="ts">
  import FieldName from './FieldName.svelte';
  import { pointSchema, type Point } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const { dressing } = useTrackDesk();
  const look = $derived(dressing.look);
  const own = $derived(dressing.own);
  const points: readonly Point[] = pointSchema.options;
  const spot = $derived(typeof look.placement === 'string' ? null : look.placement);

  function byArrow(event: KeyboardEvent & { currentTarget: HTMLElement }, at: number): void {
    const to = {
      ArrowLeft: at % 3 > 0 ? at - 1 : at,
      ArrowRight: at % 3 < 2 ? at + 1 : at,
      ArrowUp: at > 2 ? at - 3 : at,
      ArrowDown: at < 6 ? at + 3 : at
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    dressing.set({ placement: points[to]! });
    event.currentTarget.parentElement?.querySelectorAll('button')[to]?.focus();
  }
</script>

<div class="where">
  <FieldName
    label={phrases.place.label}
    isOwn={own.has('placement')}
    onLetGo={() => dressing.letGo({ placement: null })}
  >
    <span class="soft">{phrases.place.at(look.placement)}</span>
  </FieldName>
  <div class="grid" role="radiogroup" aria-label={phrases.place.grid}>
    {#each points as point, at (point)}
      <button
        role="radio"
        aria-checked={point === look.placement}
        aria-label={point}
        title={point}
        tabindex={point === look.placement || (spot !== null && at === 7) ? 0 : -1}
        onclick={() => dressing.set({ placement: point })}
        onkeydown={(event) => byArrow(event, at)}><i class={point}></i></button
      >
    {/each}
  </div>
  <p class="soft">{phrases.place.free}</p>
</div>
{#if spot !== null}
  <ValueField
    label={phrases.place.across}
    unit={phrases.place.percent}
    value={Math.round(spot.xPercent * 10) / 10}
    least={0}
    most={100}
    step={0.5}
    isOwn={false}
    onTry={(xPercent: number) => dressing.try({ placement: { ...spot, xPercent } })}
    onSet={(xPercent: number) => dressing.set({ placement: { ...spot, xPercent } })}
    onLetGo={() => undefined}
  />
  <ValueField
    label={phrases.place.down}
    unit={phrases.place.percent}
    value={Math.round(spot.yPercent * 10) / 10}
    least={0}
    most={100}
    step={0.5}
    isOwn={false}
    onTry={(yPercent: number) => dressing.try({ placement: { ...spot, yPercent } })}
    onSet={(yPercent: number) => dressing.set({ placement: { ...spot, yPercent } })}
    onLetGo={() => undefined}
  />
{/if}
<ValueField
  label={phrases.place.widest}
  unit="{phrases.place.percent} of width"
  value={look.widestPercent}
  least={10}
  most={100}
  step={1}
  isOwn={own.has('widestPercent')}
  onTry={(widestPercent: number) => dressing.try({ widestPercent })}
  onSet={(widestPercent: number) => dressing.set({ widestPercent })}
  onLetGo={() => dressing.letGo({ widestPercent: null })}
/>
<ValueField
  label={phrases.place.margin}
  unit={phrases.place.percent}
  value={look.marginPercent}
  least={0}
  most={20}
  step={0.5}
  isOwn={own.has('marginPercent')}
  onTry={(marginPercent: number) => dressing.try({ marginPercent })}
  onSet={(marginPercent: number) => dressing.set({ marginPercent })}
  onLetGo={() => dressing.letGo({ marginPercent: null })}
/>

<style>
  .where {
    display: grid;
    gap: 6px;
    font-size: 14px;
  }
  .soft {
    font-size: 13px;
    font-weight: 400;
  }
  .grid {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 3px;
    aspect-ratio: 16 / 8;
    width: 100%;
    padding: 3px;
    border-radius: 5px 20px 5px 20px;
    background: var(--pale-leaf);
    overflow: hidden;
  }
  .grid button {
    position: relative;
    border-radius: 3px;
    background: var(--sheet);
    cursor: pointer;
  }
  .grid button[aria-checked='true'] {
    background: var(--leaf);
  }
  .grid i {
    position: absolute;
    width: 46%;
    height: 5px;
    border-radius: 3px;
    background: var(--wave);
  }
  [aria-checked='true'] i {
    background: var(--on-leaf);
  }
  i.top {
    top: 18%;
  }
  i.middle {
    top: calc(50% - 2px);
  }
  i.bottom {
    bottom: 18%;
  }
  i.left {
    left: 12%;
  }
  i.centre {
    left: 27%;
  }
  i.right {
    right: 12%;
  }
</style>
