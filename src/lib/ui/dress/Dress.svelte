<script lang="ts">
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { onMount } from 'svelte';
  import { titleOf } from '$lib/client/keys/key-sets';
  import { hasOwnLook, plainLines } from '$lib/core/track';
  import { fonts } from '$lib/client/picture/fonts.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Box from './Box.svelte';
  import Colors from './Colors.svelte';
  import Kept from './Kept.svelte';
  import Letters from './Letters.svelte';
  import Motion from './Motion.svelte';
  import Place from './Place.svelte';
  import Scope from './Scope.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { dressing } = desk;
  let panel = $state<HTMLElement | undefined>();
  type Tab = 'letters' | 'colors' | 'box' | 'place' | 'motion';
  const TABS = (['letters', 'colors', 'box', 'place', 'motion'] as const).map((id) => ({
    id,
    label: phrases.tabs[id]
  }));
  let tab = $state<Tab>('letters');

  const cue = $derived(desk.cue);
  const withOwn = $derived(desk.track.cues.filter(hasOwnLook));

  function nextWithOwn(): void {
    const at = withOwn.findIndex(({ startMs }) => startMs > (cue?.startMs ?? -1));
    desk.chooseCue(withOwn[at] ?? withOwn[0], { seek: true });
  }

  onMount(() => {
    desk.surface = {
      focus: () => panel?.focus(),
      enter: () => panel?.querySelector<HTMLElement>('[role=tab][aria-selected=true]')?.focus()
    };
    panel?.focus();
    void fonts.want([]);
    return () => {
      desk.surface = null;
      dressing.leaveTrial();
    };
  });
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
          : phrases.cue.place(
              desk.cueIndex + 1,
              desk.track.cues.length,
              desk.on.showTime(cue.startMs)
            )}{#if cue !== null && hasOwnLook(cue)}<strong>, {phrases.cue.ownLook}</strong>{/if}</span
      >
      {#if cue !== null}<span class="lines">{plainLines(desk.track, cue).join(' / ')}</span>{/if}
    </p>
    <button class="icon" aria-label={phrases.cue.next} title={titleOf('nextCue')} onclick={() => desk.stepCue(1)}
      ><ChevronRight size={18} /></button
    >
  </div>
  {#if withOwn.length > 0}
    <p class="own">
      <span class="soft">{phrases.cue.withOwn(withOwn.length)}</span>
      <button class="act quiet" onclick={nextWithOwn}>{phrases.cue.nextOwn}</button>
    </p>
  {/if}

  <h2 class="unseen">{phrases.title}</h2>
  <Kept />
  <Scope />
  <div class="tabs">
    <Tabs label={phrases.tabs.label} tabs={TABS} open={tab} onOpen={(id: Tab) => (tab = id)}>
      {#if tab === 'letters'}<Letters />
      {:else if tab === 'colors'}<Colors />
      {:else if tab === 'box'}<Box />
      {:else if tab === 'place'}<Place />
      {:else}<Motion />{/if}
    </Tabs>
  </div>
</div>

<style>
  .panel {
    display: grid;
    align-content: start;
    gap: 10px;
    height: 100%;
    padding: 12px 18px 20px;
    background: var(--paper);
    overflow-y: auto;
    outline: none;
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
  .own {
    display: flex;
    align-items: center;
    justify-content: space-between;
    font-size: 14px;
  }
  .tabs {
    display: grid;
    gap: 12px;
  }
  .tabs :global(.panel) {
    gap: 10px;
  }
</style>
