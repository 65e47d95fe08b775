<script lang="ts">
  import Package from '@lucide/svelte/icons/package';
  import { SHIPPED_DESTINATIONS, type Destination } from '$lib/core/destinations';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { HandingOver } from '$lib/client/handing-over.svelte';
  import { phrases } from './phrases';

  /** All the tracks of many recordings as one bundle, for a destination of the house. */
  interface Props {
    recordingIds: readonly string[];
    onClose: () => void;
    onDone: (files: number) => void;
  }
  let { recordingIds, onClose, onDone }: Props = $props();
  const words = phrases.bundle;
  const handing = new HandingOver();
  let dialog = $state<HTMLDialogElement | undefined>();
  let destination = $state.raw<Destination>(SHIPPED_DESTINATIONS[0]!.destination);
  let names = $state.raw<readonly string[] | null>(null);
  let failure = $state<string | null>(null);

  const MOST_SHOWN = 100;
  const asked = $derived({ destination, recordingIds, title: words.title });

  $effect(() => dialog?.showModal());
  $effect(() => {
    const request = asked;
    names = null;
    api.bundleNames(request).then(
      (found) => {
        if (request !== asked) return;
        names = found;
        failure = null;
      },
      (error: unknown) => (failure = messageOf(error))
    );
  });
  async function load(): Promise<void> {
    try {
      await handing.kept.load();
      destination = handing.last ?? destination;
    } catch (error) {
      failure = messageOf(error);
    }
  }
  void load();

  async function download(): Promise<void> {
    try {
      failure = null;
      const count = names?.length ?? 0;
      if (!(await handing.download(asked))) return;
      onDone(count);
      dialog?.close();
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<dialog
  class="small-dialog"
  bind:this={dialog}
  aria-labelledby="bundle-title"
  onclose={() => {
    handing.making?.abort();
    onClose();
  }}
>
  <h2 id="bundle-title">{words.head(recordingIds.length)}</h2>
  <label
    >{words.for}
    <select
      class="field"
      data-testid="bundle-destination"
      value={handing.find(destination)?.name ?? ''}
      onchange={(event) =>
        (destination =
          handing.kept.list.find((one) => one.name === event.currentTarget.value)?.destination ?? destination)}
    >
      {#if handing.find(destination) === null}<option value="" disabled>{words.lastTime}</option>{/if}
      {#each handing.kept.list as one (one.name)}<option value={one.name}>{one.name}</option>{/each}
    </select></label
  >
  {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  {#if names !== null}
    <ul class="mono" aria-label={words.files(names.length)} data-testid="bundle-all-names">
      {#each names.slice(0, MOST_SHOWN) as name (name)}<li>{name}</li>{/each}
      {#if names.length > MOST_SHOWN}<li class="soft">{words.more(names.length - MOST_SHOWN)}</li>{/if}
    </ul>
  {/if}
  <p class="acts">
    <span class="soft" role="status"
      >{handing.making !== null ? words.making : names === null ? '' : words.files(names.length)}</span
    >
    {#if handing.making === null}
      <button class="act" onclick={() => dialog?.close()}>{phrases.cancel}</button>
      <button class="act filled" disabled={names === null || names.length === 0} onclick={() => void download()}
        ><Package size={16} /> {words.download}</button
      >
    {:else}
      <button class="act" onclick={() => handing.making?.abort()}>{phrases.cancel}</button>
    {/if}
  </p>
</dialog>

<style>
  label {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  ul {
    max-height: 40vh;
    margin: 14px 0;
    overflow-y: auto;
    font-size: 13px;
    line-height: 1.7;
    overflow-wrap: anywhere;
  }
  .acts {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  .acts .soft {
    margin-right: auto;
  }
  .failed {
    margin-top: 10px;
  }
</style>
