<script lang="ts">
  import { useWorkspace } from '$lib/client/workspace.svelte';

  const { session } = useWorkspace();
  let isOpen = $state(false);
</script>

{#if session.rejected.length > 0}
  <div class="unapplied">
    <button class="act warn" aria-expanded={isOpen} onclick={() => (isOpen = !isOpen)}
      >{session.rejected.length} not applied</button
    >
    {#if isOpen}
      <section aria-label="Edits that could not be applied">
        <p>What they change was changed or deleted elsewhere first. Their text is kept here until you put it away.</p>
        <ul>
          {#each session.rejected as rejected (rejected.batchId)}
            <li>
              <q>{rejected.text}</q>
              <span class="soft">{rejected.reason}</span>
              <button class="act quiet" onclick={() => void session.dropRejected(rejected.batchId)}>Put away</button>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{/if}

<style>
  .unapplied {
    position: relative;
  }
  section {
    position: absolute;
    z-index: 30;
    top: 40px;
    right: 0;
    width: 420px;
    max-height: 420px;
    padding: 14px 18px;
    border-radius: var(--leaf-shape);
    background: var(--sheet);
    box-shadow: 0 10px 40px rgb(0 0 0 / 0.25);
    overflow-y: auto;
  }
  li {
    display: grid;
    gap: 2px;
    justify-items: start;
    margin-top: 12px;
    padding-top: 10px;
    border-top: 1px solid var(--rule);
  }
  q {
    font-weight: 600;
    user-select: text;
  }
  span {
    font-size: 14px;
  }
</style>
