<script lang="ts">
  import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
  import X from '@lucide/svelte/icons/x';
  import { COMMANDS, type Command, type Place } from '$lib/client/keys/commands';
  import { keyName } from '$lib/client/keys/key-name';
  import { keysOf, type KeyWay } from '$lib/client/keys/key-sets';
  import { OwnKeys } from '$lib/client/keys/own-keys.svelte';
  import { PLACES } from '$lib/client/places';
  import { preferences } from '$lib/client/preferences.svelte';
  import { phrases } from './phrases';

  interface Props {
    isOpen: boolean;
    onClose: () => void;
  }
  let { isOpen, onClose }: Props = $props();
  let dialog = $state<HTMLDialogElement | undefined>();
  const own = new OwnKeys();
  let name = $state('');

  const TRACK_PLACES = 4;
  /** Number keys stand in one row, and keep their keys. */
  const isListed = ({ id }: Command): boolean => !/^take[2-9]$/.test(id);
  const nameOf = ({ id, label }: Command): string => (id === 'take1' ? phrases.keysDialog.candidates : label);
  const titleOf = (place: Place): string => PLACES.find(({ id }) => id === place)!.title;
  /** Where it can be used, if that is in one place only. */
  const whereOf = ({ places }: Command): string =>
    places === undefined || places.length !== 1 || places.length >= TRACK_PLACES ? '' : titleOf(places[0]!);
  const groups = [...new Set(COMMANDS.map((command) => command.group))].map((group): [string, readonly Command[]] => [
    group,
    COMMANDS.filter((command) => command.group === group && isListed(command))
  ]);
  const WAYS: readonly KeyWay[] = ['surface', 'typing'];

  $effect(() => {
    if (isOpen) dialog?.showModal();
    else dialog?.close();
  });

  function onKey(event: KeyboardEvent): void {
    if (own.asking === null || event.isComposing) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') own.leave();
    else own.press(event);
  }
  async function bringIn(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file !== undefined) own.bringIn(await file.text());
  }
  function takeOut(): void {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([own.takeOut()], { type: 'application/json' }));
    link.download = phrases.keysDialog.fileName(preferences.keySet?.name ?? 'Vine Tap');
    link.click();
    URL.revokeObjectURL(link.href);
  }
</script>

<dialog bind:this={dialog} onclose={onClose} onkeydowncapture={onKey} aria-labelledby="keys-title">
  {#if isOpen}
    <div class="head">
      <h2 id="keys-title">{phrases.keysDialog.keys}</h2>
      <label>
        <input
          type="checkbox"
          checked={preferences.singleLetters}
          onchange={(event) => preferences.set({ singleLetters: event.currentTarget.checked })}
        />
        {phrases.keysDialog.singleLettersAreCommands}
      </label>
      <button class="act quiet" onclick={onClose} aria-label={phrases.keysDialog.close}><X size={16} /></button>
    </div>
    <p class="soft">
      {phrases.keysDialog.about}
    </p>
    <div class="sets">
      <label
        >{phrases.keysDialog.set}
        <select
          class="field"
          value={preferences.keySet?.name ?? ''}
          onchange={(event) => own.use(event.currentTarget.value === '' ? null : event.currentTarget.value)}
        >
          <option value="">{phrases.keysDialog.asTheyCome}</option>
          {#each preferences.keySets as set (set.name)}<option value={set.name}>{set.name}</option>{/each}
        </select></label
      >
      <form
        onsubmit={(event) => {
          event.preventDefault();
          if (own.saveAs(name)) name = '';
        }}
      >
        <label class="unseen" for="key-set-name">{phrases.keysDialog.newSet}</label>
        <input
          id="key-set-name"
          class="field"
          placeholder={phrases.keysDialog.newSet}
          maxlength="60"
          bind:value={name}
        />
        <button class="act" disabled={name.trim() === ''}>{phrases.keysDialog.saveAs}</button>
      </form>
      <span class="files">
        <label class="act"
          >{phrases.keysDialog.import}<input class="unseen" type="file" accept=".json" onchange={bringIn} /></label
        >
        <button class="act" onclick={takeOut}>{phrases.keysDialog.export}</button>
        {#if preferences.keySet !== null}<button class="act" onclick={() => own.remove()}
            >{phrases.keysDialog.deleteSet}</button
          >{/if}
      </span>
    </div>
    <div class="told" role="status" aria-live="polite">
      {#if own.conflict !== null}
        {@const { key, command, other } = own.conflict}
        <p>
          <kbd>{keyName(key)}</kbd>
          {phrases.keysDialog.isTaken(nameOf(other))}
          <button class="act" onclick={() => own.settle()}>{phrases.keysDialog.giveItTo(nameOf(command))}</button>
          <button class="act quiet" onclick={() => own.leave()}>{phrases.keysDialog.leaveBothAsThey}</button>
        </p>
      {:else if own.removed !== null}
        <p>
          {phrases.keysDialog.isDeleted(own.removed.name)}
          <button class="act" onclick={() => own.bringBack()}>{phrases.keysDialog.undo}</button>
        </p>
      {:else if own.told !== null}<p>{own.told}</p>{/if}
    </div>
    <div class="groups">
      {#each groups as [group, commands] (group)}
        <section>
          <h3>{group}</h3>
          <table>
            <thead class="unseen"
              ><tr
                ><th>{phrases.keysDialog.command}</th><th>{phrases.keysDialog.onTheSurface}</th><th
                  >{phrases.keysDialog.whileTyping}</th
                ></tr
              ></thead
            >
            <tbody>
              {#each commands as command (command.id)}
                {@const keys = keysOf(command, preferences.changedKeys)}
                {@const isChanged = preferences.changedKeys[command.id] !== undefined}
                <tr class:changed={isChanged}>
                  <th scope="row"
                    >{nameOf(command)}{#if whereOf(command)}<span class="soft"
                        >{phrases.keysDialog.where(whereOf(command))}</span
                      >{/if}</th
                  >
                  {#each WAYS as way (way)}
                    {@const isAsked = own.asking?.command.id === command.id && own.asking.way === way}
                    <td>
                      {#if command.id === 'take1'}
                        {#if keys[way]}<kbd>{keyName(keys[way])}</kbd>{/if}
                      {:else}
                        <button
                          class="key-button"
                          class:asked={isAsked}
                          aria-label={phrases.keysDialog.change(
                            nameOf(command),
                            way,
                            keys[way] ? keyName(keys[way]) : null
                          )}
                          onclick={() => (isAsked ? own.leave() : own.ask(command, way))}
                          >{#if isAsked}{phrases.keysDialog.pressAKey}{:else if keys[way]}<kbd>{keyName(keys[way])}</kbd
                            >{:else}<span class="none">–</span>{/if}</button
                        >
                        {#if isAsked && keys[way]}<button class="act quiet small" onclick={() => own.set(null)}
                            >{phrases.keysDialog.noKey}</button
                          >{/if}
                      {/if}
                    </td>
                  {/each}
                  <td class="back"
                    >{#if isChanged}<button
                        class="act quiet small"
                        aria-label={phrases.keysDialog.resetOf(nameOf(command))}
                        title={phrases.keysDialog.reset}
                        onclick={() => own.reset(command)}><RotateCcw size={13} /></button
                      >{/if}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
        </section>
      {/each}
    </div>
  {/if}
</dialog>

<style>
  dialog {
    margin: auto;
    width: min(1040px, calc(100vw - 48px));
    max-height: calc(100vh - 48px);
    padding: 20px 26px 26px;
    border: none;
    border-radius: 6px 26px 6px 26px;
    background: var(--sheet);
    color: var(--ink);
    box-shadow: 0 18px 60px rgb(0 0 0 / 0.28);
  }
  dialog::backdrop {
    background: rgb(20 26 20 / 0.45);
  }
  .head,
  .sets,
  .sets form,
  .files {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .head {
    gap: 18px;
  }
  .sets {
    flex-wrap: wrap;
    gap: 18px;
    font-size: 14px;
  }
  .files {
    margin-left: auto;
  }
  .told {
    min-height: 34px;
    padding-top: 6px;
    color: var(--straw);
    font-size: 14px;
  }
  .told p {
    margin: 0;
  }
  h2 {
    flex: 1;
    font-size: 20px;
    font-weight: 700;
  }
  label {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  p {
    margin: 2px 0 12px;
  }
  .groups {
    columns: 2;
    column-gap: 36px;
  }
  section {
    break-inside: avoid;
    margin-bottom: 14px;
  }
  h3 {
    margin-bottom: 2px;
    color: var(--leaf);
    font-size: 14px;
    font-weight: 700;
  }
  table {
    width: 100%;
    font-size: 14px;
  }
  th {
    font-weight: 400;
    text-align: left;
  }
  td {
    width: 104px;
    white-space: nowrap;
    text-align: right;
  }
  .back {
    width: 24px;
  }
  .changed th {
    font-weight: 700;
  }
  .key-button {
    min-width: 28px;
    padding: 2px 4px;
    border-radius: 5px;
    text-align: right;
    cursor: pointer;
  }
  .key-button:hover {
    background: var(--pale-leaf);
  }
  .key-button.asked {
    background: var(--grape);
    color: var(--on-grape);
  }
  .none {
    color: var(--soft-ink);
  }
  .small {
    min-height: 24px;
    padding: 0 4px;
  }
</style>
