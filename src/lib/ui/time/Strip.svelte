<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { surfaceKey, titleOf } from '$lib/client/keys/key-sets';
  import { preferences } from '$lib/client/preferences.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** What the surface shows and how the hand works, always in sight; while something is tried, that. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { trial } = desk;

  const hasFrames = desk.recording.media.frameRate !== undefined;
  const steps = $derived([
    ['nextFinding', phrases.strip.rule],
    ['nextBookmark', phrases.strip.bookmark],
    ['nextGap', phrases.strip.gap],
    ...(desk.on.shotsMs.length > 0 ? [['nextShot', phrases.strip.shot] as const] : [])
  ] as const satisfies readonly (readonly [CommandId, string])[]);
</script>

{#snippet choice(
  label: string,
  command: CommandId | null,
  preference: 'timeView' | 'soundView' | 'timesAs' | 'nudge',
  options: Readonly<Record<string, string>>,
  about: string
)}
  <select
    aria-label={label}
    title={[command === null ? label : titleOf(command), about].join('. ')}
    value={preferences[preference]}
    onchange={(event) => {
      preferences.set({ [preference]: event.currentTarget.value });
      desk.surface?.focus();
    }}
  >
    {#each Object.entries(options) as [id, name] (id)}<option value={id}>{name}</option>{/each}
  </select>
{/snippet}

<div class="strip" class:tried={trial.track !== null}>
  {#if trial.track !== null}
    <p role="status" data-testid="trial">
      <strong>{phrases.strip.tried}</strong>
      {phrases.strip.aboutTrial}
    </p>
    <button class="act filled" onclick={() => trial.take()}
      >{phrases.strip.apply} <kbd>{surfaceKey('takeTrial')}</kbd></button
    >
    <button class="act" onclick={() => trial.leave()}>{phrases.strip.discard} <kbd>{surfaceKey('letGo')}</kbd></button>
  {:else if desk.trimming.seen.id !== null}
    <p class="soft" role="status">{phrases.asTrimmed.lookOnly}</p>
  {:else}
    <span class="group" role="group" aria-label={phrases.strip.whatIsShown}>
      {@render choice(phrases.strip.view, 'view', 'timeView', phrases.strip.views, phrases.strip.aboutView)}
      {@render choice(
        phrases.strip.sound,
        'soundView',
        'soundView',
        phrases.strip.soundViews,
        phrases.strip.aboutSound
      )}
      {#if hasFrames}{@render choice(
          phrases.strip.times,
          'timesAs',
          'timesAs',
          phrases.strip.timesAs,
          phrases.strip.aboutTimes
        )}{/if}
    </span>
    <span class="group" role="group" aria-label={phrases.strip.howTheHandWorks}>
      <label class="switch" title={titleOf('ripple')}
        ><input type="checkbox" checked={preferences.ripple} onchange={() => onCommand('ripple')} />
        {phrases.strip.moveWhatFollows}</label
      >
      {#if hasFrames}{@render choice(
          phrases.strip.nudge,
          null,
          'nudge',
          phrases.strip.nudges,
          phrases.strip.aboutNudge
        )}{/if}
    </span>
    <span class="group next" role="group" aria-label={phrases.strip.goToTheNext}>
      <span class="soft">{phrases.strip.next}</span>
      {#each steps as [id, name] (id)}
        <button title={titleOf(id)} onclick={() => onCommand(id)}>{name} <kbd>{surfaceKey(id)}</kbd></button>
      {/each}
    </span>
  {/if}
</div>

<style>
  .strip {
    display: flex;
    gap: 18px;
    align-items: center;
    min-height: 36px;
    padding: 0 14px;
    border-bottom: 1px solid var(--rule);
    background: var(--paper);
    font-size: 14px;
    white-space: nowrap;
  }
  .strip.tried {
    gap: 10px;
    background: var(--pale-leaf);
  }
  .tried .act {
    min-height: 28px;
    padding: 1px 10px;
  }
  p {
    flex: 1;
  }
  .filled kbd {
    color: inherit;
  }
  .group {
    display: flex;
    gap: 2px;
    align-items: center;
  }
  .next {
    margin-left: auto;
  }
  .group button {
    height: 28px;
    padding: 0 8px;
    border-radius: 3px 9px 3px 9px;
    color: var(--soft-ink);
  }
  .group button:hover {
    background: var(--pale-leaf);
    color: var(--ink);
  }
  select {
    max-width: 150px;
    height: 28px;
    padding: 0 4px;
    border: 1px solid var(--rule);
    border-radius: 3px 9px 3px 9px;
    background: var(--sheet);
    color: var(--ink);
    cursor: pointer;
  }
  .group {
    gap: 4px;
  }
  .switch {
    display: flex;
    gap: 6px;
    align-items: center;
    padding: 0 6px;
    cursor: pointer;
  }
  @media (max-width: 1180px) {
    .strip {
      gap: 8px;
      padding: 0 8px;
    }
    .next .soft,
    .next kbd {
      display: none;
    }
    .next button {
      padding: 0 5px;
    }
    select {
      max-width: 104px;
    }
  }
</style>
