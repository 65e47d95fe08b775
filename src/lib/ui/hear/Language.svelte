<script lang="ts">
  import { untrack } from 'svelte';
  import type { Engine } from '$lib/client/api';
  import { languageGroups, languageName } from '$lib/client/languages';

  interface Props {
    /** Those that hear words or fit scripts. */
    engines: readonly Engine[];
    /** BCP 47. */
    language: string;
  }
  let { engines, language = $bindable() }: Props = $props();
  const OTHER = 'other';
  const isListed = languageGroups([]).some(({ tags }) => tags.includes(untrack(() => language)));
  let chosen = $state(untrack(() => (isListed ? language : OTHER)));
  let other = $state(untrack(() => (isListed ? '' : language)));
  const groups = $derived(
    languageGroups(
      engines.filter((engine) => engine.hears).flatMap((engine) => engine.languages),
      engines.filter((engine) => engine.fits).flatMap((engine) => engine.languages)
    )
  );

  $effect(() => {
    language = chosen === OTHER ? other.trim() : chosen;
  });
</script>

<label
  >Language spoken
  <select class="field" bind:value={chosen}>
    {#each groups as group (group.label)}
      <optgroup label={group.label}>
        {#each group.tags as tag (tag)}<option value={tag}>{languageName(tag)}</option>{/each}
      </optgroup>
    {/each}
    <option value={OTHER}>Another…</option>
  </select></label
>
{#if chosen === OTHER}
  <label
    >Its tag <input class="field" size="9" placeholder="gsw" bind:value={other} />
    <span class="soft">{languageName(other)}</span></label
  >
{/if}
