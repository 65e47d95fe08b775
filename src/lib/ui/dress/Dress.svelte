<script lang="ts">
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { onMount } from 'svelte';
  import { titleOf } from '$lib/client/keys/key-sets';
  import { plainLines, placementOf, placementSchema, type Placement } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const look = $derived(desk.track.look);
  const places: readonly Placement[] = placementSchema.options;
  let scope = $state<'track' | 'cue'>('track');
  let panel = $state<HTMLElement | undefined>();

  const cue = $derived(desk.cue);
  const placement = $derived(scope === 'cue' && cue !== null ? placementOf({ look }, cue) : look.placement);

  function place(to: Placement): void {
    if (scope === 'cue' && cue !== null) desk.edit([{ type: 'setCuePlacement', cueId: cue.id, placement: to }]);
    else desk.edit([{ type: 'setLook', look: { ...look, placement: to } }]);
  }

  onMount(() => {
    desk.surface = {
      focus: () => panel?.focus(),
      enter: () => panel?.querySelector<HTMLElement>('input')?.focus()
    };
    panel?.focus();
    return () => (desk.surface = null);
  });

  function byArrow(event: KeyboardEvent, at: number): void {
    const to = {
      ArrowLeft: at % 3 > 0 ? at - 1 : at,
      ArrowRight: at % 3 < 2 ? at + 1 : at,
      ArrowUp: at > 2 ? at - 3 : at,
      ArrowDown: at < 6 ? at + 3 : at
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    place(places[to]!);
    (event.currentTarget as HTMLElement).parentElement?.querySelectorAll('button')[to]?.focus();
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="panel" bind:this={panel} tabindex="0" role="region" aria-label={phrases.title} data-surface>
  <div class="cue" role="group" aria-label={phrases.cue.label}>
    <button
      class="icon"
      aria-label={phrases.cue.previous}
      title={titleOf('previousCue')}
      onclick={() => desk.stepCue(-1)}><ChevronLeft size={18} /></button
    >
    <p>
      <span class="soft"
        >{cue === null
          ? phrases.cue.none
          : phrases.cue.place(desk.cueIndex + 1, desk.track.cues.length, desk.on.showTime(cue.startMs))}</span
      >
      {#if cue !== null}<span class="lines">{plainLines(desk.track, cue).join(' / ')}</span>{/if}
    </p>
    <button class="icon" aria-label={phrases.cue.next} title={titleOf('nextCue')} onclick={() => desk.stepCue(1)}
      ><ChevronRight size={18} /></button
    >
  </div>

  <h2>{phrases.title}</h2>
  <label class="size">
    <span>{phrases.size.label}</span>
    <span class="mono soft">{phrases.size.value(look.sizePercent)}</span>
    <input
      type="range"
      min="3"
      max="12"
      step="0.5"
      value={look.sizePercent}
      aria-label={phrases.size.name}
      onchange={(event) =>
        desk.edit([{ type: 'setLook', look: { ...look, sizePercent: Number(event.currentTarget.value) } }])}
      data-testid="size"
    />
  </label>

  <fieldset class="scope">
    <legend>{phrases.place.label}</legend>
    <label><input type="radio" bind:group={scope} value="track" /> {phrases.place.ofAll}</label>
    <label><input type="radio" bind:group={scope} value="cue" disabled={cue === null} /> {phrases.place.ofCue}</label>
  </fieldset>
  <div class="grid" role="radiogroup" aria-label={phrases.place.grid}>
    {#each places as one, at (one)}
      <button
        role="radio"
        aria-checked={one === placement}
        aria-label={one}
        title={one}
        tabindex={one === placement ? 0 : -1}
        onclick={() => place(one)}
        onkeydown={(event) => byArrow(event, at)}><i class={one}></i></button
      >
    {/each}
  </div>
  <p class="soft where">{placement.replace(' ', ', ')}</p>
  {#if scope === 'cue' && cue !== null && cue.placement !== null}
    <button class="act" onclick={() => desk.edit([{ type: 'setCuePlacement', cueId: cue.id, placement: null }])}
      >{phrases.place.asOthers}</button
    >
  {/if}
  <p class="soft">{phrases.about}</p>
</div>

<style>
  .panel {
    display: grid;
    align-content: start;
    gap: 14px;
    height: 100%;
    padding: 20px 22px;
    background: var(--paper);
    overflow-y: auto;
    outline: none;
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
  .cue {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    align-items: center;
    gap: 8px;
    min-height: 46px;
  }
  .cue p {
    display: grid;
    text-align: center;
  }
  .cue .soft {
    font-size: 14px;
  }
  .lines {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .size {
    display: grid;
    gap: 2px;
  }
  legend {
    margin-bottom: 4px;
    font-weight: 400;
  }
  .scope {
    display: grid;
    gap: 4px;
    margin-top: 8px;
  }
  .scope label {
    display: flex;
    gap: 8px;
  }
  .grid {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 3px;
    aspect-ratio: 16 / 9;
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
  .where {
    margin-top: -8px;
    font-size: 14px;
  }
</style>
