<script lang="ts">
  import Copy from '@lucide/svelte/icons/copy';
  import Pencil from '@lucide/svelte/icons/pencil';
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { messageOf } from '$lib/core/message-of';
  import { formatClock } from '$lib/core/time';
  import type { CommandId } from '$lib/client/keys/commands';
  import { titleOf as keyTitle } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Which trim is open, and how long it is against the recording. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { trimming } = desk;
  const words = phrases.strip;
  let isNaming = $state(false);
  let deleted = $state.raw<{ readonly title: string; readonly bringBack: () => Promise<void> } | null>(null);

  const trim = $derived(trimming.trim);
  const outMs = $derived(trim === null || trimming.map === null ? 0 : trim.recordedMs - trimming.map.lengthMs);

  async function trying(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      desk.say(messageOf(error));
    }
  }
  async function remove(): Promise<void> {
    const title = trim?.title ?? '';
    const bringBack = await trimming.remove();
    deleted = { title, bringBack };
  }
  function name(title: string): void {
    isNaming = false;
    if (title.trim() !== '' && title.trim() !== trim?.title) trimming.edit({ type: 'setTitle', title: title.trim() });
    desk.surface?.focus();
  }
  const titleOf = (one: (typeof trimming.list)[number]): string => (one.id === trim?.id ? trim.title : one.title);
  const lengthOf = (one: (typeof trimming.list)[number]): number =>
    one.id === trim?.id ? (trimming.map?.lengthMs ?? one.durationMs) : one.durationMs;
</script>

<div class="strip">
  {#if trim !== null}
    {#if isNaming}
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="field"
        autofocus
        aria-label={words.name}
        maxlength="200"
        value={trim.title}
        onblur={(event) => name(event.currentTarget.value)}
        onkeydown={(event) => {
          if (event.key === 'Enter') name(event.currentTarget.value);
          if (event.key === 'Escape') name('');
          event.stopPropagation();
        }}
      />
    {:else}
      <select
        class="field"
        aria-label={words.trim}
        value={trim.id}
        onchange={(event) => void trying(() => trimming.open(event.currentTarget.value))}
      >
        {#each trimming.list as one (one.id)}
          <option value={one.id}>{titleOf(one)} · {formatClock(lengthOf(one))}</option>
        {/each}
      </select>
    {/if}
    <span class="signs">
      <button class="icon" aria-label={words.rename} title={words.rename} onclick={() => (isNaming = true)}
        ><Pencil size={16} /></button
      >
      <button
        class="icon"
        aria-label={words.add}
        title={words.add}
        onclick={() => void trying(() => trimming.add(words.addTitle(trimming.list.length + 1)))}
        ><Plus size={17} /></button
      >
      <button
        class="icon"
        aria-label={words.duplicate}
        title={words.duplicate}
        onclick={() => void trying(() => trimming.duplicate())}><Copy size={16} /></button
      >
      <button class="icon" aria-label={words.remove} title={words.remove} onclick={() => void trying(remove)}
        ><Trash size={16} /></button
      >
    </span>
    {#if deleted !== null}
      <span class="soft">{words.removed(deleted.title)}</span>
      <button
        class="act quiet"
        onclick={() =>
          void trying(async () => {
            await deleted?.bringBack();
            deleted = null;
          })}>{words.bringBack}</button
      >
    {/if}
    {#if trim.pieces.some((piece) => piece.kind === 'stretch' && (piece.out !== 'no' || piece.silent))}
      <button class="act quiet" title={keyTitle('putAllBack')} onclick={() => onCommand('putAllBack')}
        >{phrases.acts.all}</button
      >
    {/if}
    <p class="clocks" data-testid="trim-clocks">
      <span class="soft">{words.recorded}</span> <span class="mono">{desk.on.showTime(trim.recordedMs, 2)}</span>
      <span class="soft">{words.trimmed}</span>
      <strong class="mono">{desk.on.showTime(trimming.map?.lengthMs ?? 0, 2)}</strong>
      <span class="soft"
        >{outMs > 0
          ? words.out(outMs, outMs / trim.recordedMs)
          : outMs < 0
            ? words.longer(-outMs)
            : words.nothingOut}</span
      >
    </p>
  {/if}
</div>

<style>
  .strip {
    display: flex;
    gap: 8px;
    align-items: center;
    height: 36px;
    padding: 0 18px;
    border-bottom: 1px solid var(--rule);
    background: var(--paper);
    font-size: 14px;
    overflow: hidden;
    white-space: nowrap;
  }
  .field {
    flex: 0 1 220px;
    width: 220px;
    min-width: 110px;
    min-height: 28px;
    padding: 1px 8px;
    font-size: 14px;
  }
  .signs {
    display: flex;
  }
  .clocks {
    display: flex;
    gap: 6px;
    align-items: baseline;
    margin-left: auto;
  }
  @media (max-width: 1150px) {
    .clocks .soft:first-child,
    .clocks .mono:nth-of-type(2) {
      display: none;
    }
  }
  .clocks .mono + .soft {
    margin-left: 8px;
  }
</style>
