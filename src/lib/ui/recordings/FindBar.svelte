<script lang="ts">
  import ArrowDownUp from '@lucide/svelte/icons/arrow-down-up';
  import Search from '@lucide/svelte/icons/search';
  import { languageName } from '$lib/core/track';
  import type { LibraryQuery, WorkState } from '$lib/client/api';
  import { library } from '$lib/client/library.svelte';
  import { phrases } from './phrases';

  interface Props {
    onManage: () => void;
  }
  let { onManage }: Props = $props();
  let field = $state<HTMLInputElement | undefined>();
  const { find } = phrases;
  /** What in the list of projects opens the dialog. */
  const MANAGE = 'manage';
  const byName = $derived(
    library.languages.toSorted((one, other) => languageName(one).localeCompare(languageName(other)))
  );

  export function focus(): void {
    field?.select();
  }
</script>

<search class="find">
  <label class="text">
    <Search size={16} />
    <span class="unseen">{find.label}</span>
    <input
      class="field"
      type="search"
      maxlength="200"
      placeholder={find.label}
      value={library.query.text}
      bind:this={field}
      oninput={(event) => library.look({ text: event.currentTarget.value.trim() })}
    />
  </label>
  <select
    class="field"
    aria-label={find.language}
    value={library.query.language}
    onchange={(event) => library.look({ language: event.currentTarget.value })}
  >
    <option value="">{find.anyLanguage}</option>
    {#each byName as tag (tag)}<option value={tag}>{languageName(tag)}</option>{/each}
  </select>
  <select
    class="field"
    aria-label={find.work}
    value={library.query.work}
    onchange={(event) => library.look({ work: event.currentTarget.value as WorkState | '' })}
  >
    <option value="">{find.anyWork}</option>
    {#each Object.entries(phrases.works) as [id, label] (id)}<option value={id}>{label}</option>{/each}
  </select>
  <select
    class="field"
    aria-label={find.project}
    value={library.query.project}
    onchange={(event) => {
      const { value } = event.currentTarget;
      if (value !== MANAGE) return library.look({ project: value });
      event.currentTarget.value = library.query.project;
      onManage();
    }}
  >
    <option value="">{find.anyProject}</option>
    {#each library.projects as { id, name, recordingCount } (id)}<option value={id}>{name} ({recordingCount})</option
      >{/each}
    <option value="none">{find.noProject}</option>
    <option value={MANAGE}>{phrases.projects.manage}</option>
  </select>
  <select
    class="field"
    aria-label={find.sort}
    value={library.query.sort}
    onchange={(event) => library.look({ sort: event.currentTarget.value as LibraryQuery['sort'] })}
  >
    {#each Object.entries(phrases.sorts) as [id, label] (id)}<option value={id}>{label}</option>{/each}
  </select>
  <button
    class="icon"
    aria-label={find.reverse}
    title={find.reverse}
    aria-pressed={library.query.isReversed}
    onclick={() => library.look({ isReversed: !library.query.isReversed })}><ArrowDownUp size={16} /></button
  >
  {#if library.isNarrowed}<button class="act quiet" onclick={() => library.lookAtAll()}>{find.showAll}</button>{/if}
</search>

<style>
  .find {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  .text {
    position: relative;
    flex: 1 1 240px;
    min-width: 150px;
    max-width: 340px;
  }
  .text > :global(svg) {
    position: absolute;
    top: 9px;
    left: 10px;
    color: var(--soft-ink);
  }
  .text .field {
    width: 100%;
    padding-left: 34px;
  }
  select {
    max-width: 150px;
  }
  .icon[aria-pressed='true'] {
    background: var(--pale-leaf);
    color: var(--leaf);
  }
</style>
