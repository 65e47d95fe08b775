<script lang="ts">
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Project } from '$lib/client/api';
  import { EVERYTHING, library } from '$lib/client/library.svelte';
  import { phrases } from './phrases';

  interface Props {
    onClose: () => void;
    onRemoved: (project: Project, recordingIds: readonly string[]) => void;
  }
  let { onClose, onRemoved }: Props = $props();
  let dialog = $state<HTMLDialogElement | undefined>();
  let name = $state('');
  let failure = $state<string | null>(null);

  $effect(() => dialog?.showModal());

  async function doing(work: () => Promise<unknown>): Promise<void> {
    failure = null;
    try {
      await work();
    } catch (error) {
      failure = messageOf(error);
    }
    library.refresh({ isSoon: false });
  }
  const add = (): Promise<void> =>
    doing(async () => {
      await api.addProject(name.trim());
      name = '';
    });
  const remove = (project: Project): Promise<void> =>
    doing(async () => {
      const ids = await api.libraryIds({ ...EVERYTHING, project: project.id });
      await api.removeProject(project.id);
      onRemoved(project, ids);
    });
</script>

<dialog class="small-dialog" bind:this={dialog} aria-labelledby="projects-title" onclose={onClose}>
  <h2 id="projects-title">{phrases.projects.title}</h2>
  <p class="soft">{phrases.projects.about}</p>
  <ul>
    {#each library.projects as project (project.id)}
      <li>
        <input
          class="field"
          maxlength="100"
          aria-label={phrases.projects.rename(project.name)}
          value={project.name}
          onchange={(event) => {
            const to = event.currentTarget.value.trim();
            if (to === '') event.currentTarget.value = project.name;
            else void doing(() => api.renameProject(project.id, to));
          }}
        />
        <span class="soft">{phrases.projects.count(project.recordingCount)}</span>
        <button class="icon" aria-label={phrases.projects.remove(project.name)} onclick={() => void remove(project)}
          ><Trash2 size={16} /></button
        >
      </li>
    {:else}
      <li class="soft">{phrases.projects.none}</li>
    {/each}
  </ul>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (name.trim() !== '') void add();
    }}
  >
    <input
      class="field"
      maxlength="100"
      placeholder={phrases.projects.name}
      aria-label={phrases.projects.name}
      bind:value={name}
    />
    <button class="act" disabled={name.trim() === ''}>{phrases.projects.add}</button>
  </form>
  {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  <form method="dialog"><button class="act filled">{phrases.projects.close}</button></form>
</dialog>

<style>
  ul {
    display: grid;
    gap: 6px;
    max-height: 320px;
    margin-block: 14px;
    overflow-y: auto;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 12px;
  }
  form {
    display: flex;
    gap: 10px;
    margin-top: 14px;
  }
  form .field {
    flex: 1;
  }
  .failed {
    margin-top: 10px;
    color: var(--clay);
  }
</style>
