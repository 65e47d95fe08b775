<script lang="ts">
  import { untrack } from 'svelte';
  import { languageName } from '$lib/core/track';
  import type { Engine } from '$lib/client/api';
  import { languageGroups } from '$lib/client/languages';
  import { phrases } from './phrases';

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
  >{phrases.language.languageSpoken}
  <select class="field" bind:value={chosen}>
    {#each groups as group (group.label)}
      <optgroup label={group.label}>
        {#each group.tags as tag (tag)}<option value={tag}>{languageName(tag)}</option>{/each}
      </optgroup>
    {/each}
    <option value={OTHER}>{phrases.language.another}</option>
  </select></label
>
{#if chosen === OTHER}
  <label
    >{phrases.language.itsTag}
    <input class="field" size="9" placeholder={phrases.language.tagExample} bind:value={other} />
    <span class="soft">{languageName(other)}</span></label
  >
{/if}
