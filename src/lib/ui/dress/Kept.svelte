<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import Pencil from '@lucide/svelte/icons/pencil';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { onMount, tick } from 'svelte';
  import { findNewer } from '$lib/core/kept';
  import { formatLooksFile, parseLooksFile, SHIPPED_LOOKS, type KeptLook, type OwnLook } from '$lib/core/looks';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { Kept } from '$lib/client/kept.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Looks that are kept: taken, kept, renamed, deleted, brought in and taken out. */
  const desk = useTrackDesk();
  const { dressing } = desk;
  const kept = new Kept<KeptLook, OwnLook>({
    ...{ shipped: SHIPPED_LOOKS, load: api.looks, save: api.saveLooks },
    plain: ({ name, look }) => ({ name, look })
  });
  let isOpen = $state(false);
  let name = $state('');
  let renamed = $state.raw<KeptLook | null>(null);
  let button = $state<HTMLButtonElement | undefined>();
  let list = $state<HTMLElement | undefined>();
  let file = $state<HTMLInputElement | undefined>();

  const newer = $derived(findNewer(desk.track.lookFrom, kept.list));
  const shipped = $derived(kept.list.filter((one) => one.shipped));

  onMount(() => void act(() => kept.load()));

  async function act(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      desk.say(messageOf(error));
    }
  }

  async function open(): Promise<void> {
    isOpen = !isOpen;
    if (!isOpen) return dressing.leaveTrial();
    await act(() => kept.load());
    await tick();
    list?.querySelector('button')?.focus();
  }

  function close(): void {
    isOpen = false;
    renamed = null;
    dressing.leaveTrial();
    button?.focus();
  }

  function use(one: KeptLook): void {
    dressing.scope = 'track';
    dressing.takeWhole(one.look, { name: one.name, version: one.version });
    close();
  }

  function byKey(event: KeyboardEvent): void {
    if (event.key === 'Escape') {
      event.stopPropagation();
      return close();
    }
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined || event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    event.stopPropagation();
    const all = [...(list?.querySelectorAll<HTMLElement>('button.use') ?? [])];
    all[(all.indexOf(event.target as HTMLElement) + by + all.length) % all.length]?.focus();
  }

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const asked = name.trim();
    if (asked === '') return;
    if (kept.isShipped(asked)) return desk.say(phrases.kept.shippedName(asked));
    void act(async () => {
      const { look } = desk.track;
      if (renamed !== null) await kept.rename(renamed, asked);
      else {
        const isKnown = kept.own.some((one) => one.name === asked);
        await kept.keep([{ name: asked, look }]);
        if (isKnown) desk.say(phrases.kept.replaced(asked));
        const made = kept.own.find((one) => one.name === asked);
        if (made !== undefined)
          desk.edit([{ type: 'setLook', look: {}, from: { name: asked, version: made.version } }]);
      }
      renamed = null;
      name = '';
    });
  }

  const remove = (one: KeptLook): Promise<void> =>
    act(async () => {
      await kept.remove(one.name);
      desk.say(phrases.kept.removed(one.name));
    });

  async function bringIn(): Promise<void> {
    const chosen = file?.files?.[0];
    if (chosen === undefined) return;
    const read = parseLooksFile(await chosen.text());
    file!.value = '';
    if (!read.ok) return desk.say(read.problem.message);
    await act(async () => {
      await kept.bringIn(read.value);
      desk.say(phrases.kept.broughtIn(read.value.length));
    });
  }

  const takeOut = (): string =>
    URL.createObjectURL(new Blob([formatLooksFile(kept.own)], { type: 'application/json' }));
</script>

<div class="kept">
  <button class="act open" aria-expanded={isOpen} bind:this={button} onclick={() => void open()}>
    <span>{desk.track.lookFrom === null ? phrases.kept.choose : phrases.kept.from(desk.track.lookFrom.name)}</span>
    <ChevronDown size={16} />
  </button>
  {#if newer !== null}
    <p class="newer" role="status">
      {phrases.kept.newer(newer.name)}
      <button class="act" onclick={() => use(newer)}>{phrases.kept.takeNewer}</button>
    </p>
  {/if}
  {#if isOpen}
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <div class="list" bind:this={list} role="group" aria-label={phrases.kept.choose} onkeydown={byKey}>
      {#snippet row(one: KeptLook)}
        <li>
          <button
            class="use"
            aria-current={desk.track.lookFrom?.name === one.name}
            onpointerenter={() => dressing.tryWhole(one.look)}
            onfocus={() => dressing.tryWhole(one.look)}
            onpointerleave={() => dressing.leaveTrial()}
            onblur={() => dressing.leaveTrial()}
            onclick={() => use(one)}
          >
            <strong>{one.name}</strong><span class="soft">{phrases.kept.purposes[one.name] ?? ''}</span>
          </button>
          {#if !one.shipped}
            <button
              class="icon"
              aria-label="{phrases.kept.rename} “{one.name}”"
              title={phrases.kept.rename}
              onclick={() => {
                renamed = one;
                name = one.name;
              }}><Pencil size={15} /></button
            >
            <button
              class="icon"
              aria-label="{phrases.kept.remove} “{one.name}”"
              title={phrases.kept.remove}
              onclick={() => void remove(one)}><Trash size={15} /></button
            >
          {/if}
        </li>
      {/snippet}
      {#if kept.own.length > 0}
        <h3>{phrases.kept.ours}</h3>
        <ul>
          {#each kept.own as one (one.name)}{@render row(one)}{/each}
        </ul>
      {/if}
      {#if kept.removed !== null}
        <p class="newer">
          {phrases.kept.removed(kept.removed.name)}
          <button class="act" onclick={() => void act(() => kept.bringBack())}>{phrases.kept.bringBack}</button>
        </p>
      {/if}
      <h3>{phrases.kept.shipped}</h3>
      <ul>
        {#each shipped as one (one.name)}{@render row(one)}{/each}
      </ul>
      <form onsubmit={keep}>
        <label
          ><span class="soft">{renamed === null ? phrases.kept.save : phrases.kept.rename}</span>
          <input class="field" bind:value={name} maxlength="100" placeholder={phrases.kept.name} /></label
        >
        <button class="act" disabled={name.trim() === ''}
          >{renamed === null ? phrases.kept.keep : phrases.kept.rename}</button
        >
      </form>
      <p class="files">
        <button class="act quiet" onclick={() => file?.click()}>{phrases.kept.bringIn}</button>
        {#if kept.own.length > 0}
          <a class="act quiet" href={takeOut()} download="vine-tap-looks.json">{phrases.kept.takeOut}</a>
        {/if}
        <input
          type="file"
          accept="application/json,.json"
          class="unseen"
          tabindex="-1"
          aria-label={phrases.kept.bringIn}
          bind:this={file}
          onchange={() => void bringIn()}
        />
      </p>
    </div>
  {/if}
</div>

<style>
  .kept {
    position: relative;
    display: grid;
    gap: 8px;
  }
  .open {
    justify-content: space-between;
    width: 100%;
  }
  .open span {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .newer {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    font-size: 14px;
  }
  .list {
    position: absolute;
    z-index: 20;
    top: 36px;
    right: 0;
    left: 0;
    display: grid;
    gap: 4px;
    max-height: 62vh;
    padding: 10px 12px 12px;
    border-radius: var(--leaf-shape);
    background: var(--sheet);
    box-shadow: 0 10px 40px rgb(0 0 0 / 0.25);
    overflow-y: auto;
  }
  h3 {
    margin-top: 4px;
    color: var(--soft-ink);
    font-size: 13px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
  }
  .use {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 10px;
    min-height: 32px;
    padding: 3px 8px;
    border-radius: 3px 9px;
    text-align: left;
    cursor: pointer;
  }
  .use:hover,
  .use:focus-visible,
  .use[aria-current='true'] {
    background: var(--pale-leaf);
  }
  .use .soft {
    font-size: 13px;
  }
  form {
    display: flex;
    align-items: end;
    gap: 8px;
    margin-top: 8px;
    padding-top: 8px;
    border-top: 1px solid var(--rule);
  }
  form label {
    display: grid;
    flex: 1;
    min-width: 0;
    font-size: 13px;
  }
  .files {
    display: flex;
    flex-wrap: wrap;
  }
  .files .act {
    font-size: 14px;
  }
</style>
