<script lang="ts">
  import { uploads } from '$lib/client/uploads.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import { phrases } from './phrases';

  const { upload: said } = phrases;
</script>

{#each uploads.list as upload (upload.key)}
  <div class="upload" class:failed={upload.state === 'refused'}>
    <span class="name">{upload.name}</span>
    {#if upload.state === 'refused'}
      <span role="alert">{upload.problem}</span>
      <button class="act quiet" onclick={() => uploads.dismiss(upload.key)}>{phrases.dismiss}</button>
    {:else}
      <ProgressBar label={said.sending(upload.name)} progress={upload.progress} />
      <span class="soft" role="status">{said.state(upload)}</span>
      <button class="act quiet" onclick={() => uploads.cancel(upload.key)}>{phrases.cancel}</button>
    {/if}
  </div>
{/each}

<style>
  .upload {
    display: grid;
    grid-template-columns: minmax(120px, 1fr) 2fr auto auto;
    align-items: center;
    gap: 16px;
    padding: 6px 18px;
  }
  .upload.failed {
    grid-template-columns: minmax(120px, 1fr) 3fr auto;
    margin-top: 8px;
    border-radius: 4px 12px 4px 12px;
    background: var(--pale-clay);
    color: var(--clay);
  }
  .name {
    overflow: hidden;
    font-weight: 700;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
</style>
