<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { COMMANDS, keyName, type Command } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';

  interface Props {
    isOpen: boolean;
    onClose: () => void;
  }
  let { isOpen, onClose }: Props = $props();
  let dialog = $state<HTMLDialogElement | undefined>();

  /** One row stands for all number keys. */
  const isListed = ({ id }: Command): boolean => !/^take[2-9]$/.test(id);
  const nameOf = ({ id, label }: Command): string => (id === 'take1' ? 'Take a candidate: 1 to 9' : label);
  const groups = [...new Set(COMMANDS.map((command) => command.group))].map((group): [string, readonly Command[]] => [
    group,
    COMMANDS.filter((command) => command.group === group && isListed(command))
  ]);

  $effect(() => {
    if (isOpen) dialog?.showModal();
    else dialog?.close();
  });
</script>

<dialog bind:this={dialog} onclose={onClose} aria-labelledby="keys-title">
  <div class="head">
    <h2 id="keys-title">Keys</h2>
    <label>
      <input
        type="checkbox"
        checked={preferences.singleLetters}
        onchange={(event) => preferences.set({ singleLetters: event.currentTarget.checked })}
      />
      Single letters are commands
    </label>
    <button class="act quiet" onclick={onClose} aria-label="Close"><X size={16} /></button>
  </div>
  <p class="soft">
    Enter goes into the text, Esc comes out. Letters are commands on the surface; while typing the same commands take
    Alt.
  </p>
  <div class="groups">
    {#each groups as [group, commands] (group)}
      <section>
        <h3>{group}</h3>
        <table>
          <thead class="unseen"><tr><th>Command</th><th>On the surface</th><th>While typing</th></tr></thead>
          <tbody>
            {#each commands as command (command.id)}
              <tr>
                <th scope="row">{nameOf(command)}</th>
                <td
                  >{#if command.surface}<kbd class="key">{keyName(command.surface)}</kbd>{/if}</td
                >
                <td
                  >{#if command.typing}<kbd>{keyName(command.typing)}</kbd>{/if}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      </section>
    {/each}
  </div>
</dialog>

<style>
  dialog {
    margin: auto;
    width: min(940px, calc(100vw - 48px));
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
  .head {
    display: flex;
    align-items: center;
    gap: 18px;
  }
  h2 {
    flex: 1;
    font-size: 20px;
    font-weight: 700;
  }
  label {
    display: flex;
    gap: 8px;
  }
  p {
    margin: 2px 0 12px;
  }
  .groups {
    columns: 2;
    column-gap: 44px;
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
    width: 108px;
    white-space: nowrap;
    padding: 2px 0;
    text-align: right;
  }
  .key {
    color: var(--ink);
  }
</style>
