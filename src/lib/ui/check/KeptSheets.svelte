<script lang="ts">
  import { onMount } from 'svelte';
  import { formatSheetsFile, parseSheetsFile, SHIPPED_SHEETS, type KeptSheet, type OwnSheet } from '$lib/core/checks';
  import { findNewer } from '$lib/core/kept';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { Kept } from '$lib/client/kept.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** The sheets that a house keeps: taken, kept, renamed, deleted, brought in and taken out. */
  const desk = useTrackDesk();
  const words = phrases.sheet;
  const kept = new Kept<KeptSheet, OwnSheet>({
    ...{ shipped: SHIPPED_SHEETS, load: api.sheets, save: api.saveSheets },
    plain: ({ name, sheet }) => ({ name, sheet })
  });
  let name = $state('');
  let file = $state<HTMLInputElement | undefined>();

  const from = $derived(desk.track.sheetFrom);
  const source = $derived(kept.list.find((one) => one.name === (from?.name ?? SHIPPED_SHEETS[0]!.name)) ?? null);
  const newer = $derived(findNewer(from, kept.list));
  const isAsKept = $derived(source !== null && JSON.stringify(source.sheet) === JSON.stringify(desk.track.sheet));
  const shipped = $derived(kept.list.filter((one) => one.shipped));

  onMount(() => void act(() => kept.load()));

  async function act(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      desk.say(messageOf(error));
    }
  }

  function take(chosen: string): void {
    const one = kept.list.find(({ name }) => name === chosen);
    if (one === undefined) return;
    desk.edit(
      [{ type: 'setSheet', sheet: one.sheet, from: { name: one.name, version: one.version } }],
      words.taken(one.name)
    );
  }

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const asked = name.trim();
    if (asked === '') return;
    if (kept.isShipped(asked)) return desk.say(words.shippedName(asked));
    void act(async () => {
      await kept.keep([{ name: asked, sheet: desk.track.sheet }]);
      take(asked);
      desk.say(words.kept(asked));
      name = '';
    });
  }

  const rename = (): Promise<void> =>
    act(async () => {
      const asked = name.trim();
      if (source === null || source.shipped || asked === '') return;
      if (kept.isShipped(asked)) return desk.say(words.shippedName(asked));
      await kept.rename(source, asked);
      take(asked);
      name = '';
    });

  const remove = (): Promise<void> =>
    act(async () => {
      if (source === null) return;
      await kept.remove(source.name);
      desk.say(words.removed(source.name));
    });

  async function bringIn(): Promise<void> {
    const chosen = file?.files?.[0];
    if (chosen === undefined) return;
    const read = parseSheetsFile(await chosen.text());
    file!.value = '';
    if (!read.ok) return desk.say(read.problem.message);
    await act(async () => {
      await kept.bringIn(read.value);
      desk.say(words.broughtIn(read.value.length));
    });
  }

  const takeOut = (): string =>
    URL.createObjectURL(new Blob([formatSheetsFile(kept.own)], { type: 'application/json' }));
</script>

<div class="kept">
  <label
    ><strong>{words.from}</strong>
    <select
      class="field"
      value={isAsKept ? source!.name : ''}
      onchange={(event) => take(event.currentTarget.value)}
      data-testid="sheet-from"
    >
      {#if !isAsKept}<option value="" disabled>{source === null ? words.own : words.ownOf(source.name)}</option>{/if}
      {#if kept.own.length > 0}
        <optgroup label={words.ours}>
          {#each kept.own as one (one.name)}<option value={one.name}>{one.name}</option>{/each}
        </optgroup>
      {/if}
      <optgroup label={words.shipped}>
        {#each shipped as one (one.name)}
          <option value={one.name}>{one.name}: {words.purposes[one.name] ?? ''}</option>
        {/each}
      </optgroup>
    </select></label
  >
  <form onsubmit={keep}>
    <input class="field" bind:value={name} maxlength="80" placeholder={words.name} aria-label={words.keepAs} />
    <button class="act" disabled={name.trim() === ''}>{words.keep}</button>
    {#if source !== null && !source.shipped}
      <button type="button" class="act quiet" disabled={name.trim() === ''} onclick={() => void rename()}
        >{words.rename}</button
      >
      <button type="button" class="act quiet" onclick={() => void remove()}>{words.remove}</button>
    {/if}
  </form>
  <span class="files">
    <button class="act quiet" onclick={() => file?.click()}>{words.bringIn}</button>
    {#if kept.own.length > 0}<a class="act quiet" href={takeOut()} download="vine-tap-sheets.json">{words.takeOut}</a
      >{/if}
    <input
      type="file"
      accept="application/json,.json"
      class="unseen"
      tabindex="-1"
      aria-label={words.bringIn}
      bind:this={file}
      onchange={() => void bringIn()}
    />
  </span>
  {#if newer !== null}
    <p role="status">
      {words.newer(newer.name)}
      <button class="act" onclick={() => take(newer.name)}>{words.takeNewer}</button>
    </p>
  {/if}
  {#if kept.removed !== null}
    <p role="status">
      {words.removed(kept.removed.name)}
      <button class="act" onclick={() => void act(() => kept.bringBack())}>{words.bringBack}</button>
    </p>
  {/if}
</div>

<style>
  .kept {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 14px;
    padding: 0 16px 10px;
  }
  label,
  form,
  p {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  form input {
    width: 130px;
  }
  select {
    max-width: 300px;
  }
  .files {
    margin-left: auto;
  }
  p {
    width: 100%;
  }
</style>
