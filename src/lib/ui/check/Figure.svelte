<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A chart with what it is called, and what it says in words. */
  interface Props {
    title: string;
    about: string;
    failure?: string | null;
    children: Snippet;
  }
  let { title, about, failure = null, children }: Props = $props();
</script>

<figure aria-label={title}>
  <figcaption>
    <h2>{title}</h2>
    {#if failure === null}<span class="soft" role="status">{about}</span>
    {:else}<span class="failed" role="alert">{failure}</span>{/if}
  </figcaption>
  {@render children()}
</figure>

<style>
  figure {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
    margin: 0;
  }
  figcaption {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 10px;
  }
  h2 {
    font-size: 16px;
    font-weight: 700;
  }
  .soft {
    font-size: 14px;
  }
</style>
