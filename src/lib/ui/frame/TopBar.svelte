<script lang="ts">
  import Moon from '@lucide/svelte/icons/moon';
  import Sun from '@lucide/svelte/icons/sun';
  import type { Place } from '$lib/client/keys/commands';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import { PLACES } from '$lib/client/places';
  import { preferences } from '$lib/client/preferences.svelte';
  import Background from './Background.svelte';
  import type { Snippet } from 'svelte';
  import { phrases } from './phrases';

  interface Props {
    title: string;
    subtitle?: string;
    /** Addresses of the places; `null` for one that has nothing to show yet. */
    places?: readonly { readonly place: Place; readonly href: string | null }[];
    here?: Place;
    onKeys?: () => void;
    status?: Snippet;
    about?: Snippet;
  }
  let { title, subtitle = '', places = [], here, onKeys, status, about }: Props = $props();

  const placeOf = (id: Place) => PLACES.find((one) => one.id === id)!;

  const nextMode = $derived(preferences.mode === 'dark' ? 'light' : 'dark');
</script>

<header>
  <a class="home" href="/" aria-label={phrases.topBar.allRecordings} title={phrases.topBar.allRecordings}>
    <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true"
      ><path d="M3 21C2 9 9 3 21 3c0 12-6 19-15 17L3 21Z" fill="var(--leaf)" /><path
        d="M4 20 16 8"
        stroke="var(--paper)"
        stroke-width="1.6"
        stroke-linecap="round"
      /></svg
    >
  </a>
  <div class="what">
    <h1 {title}>{title}</h1>
    {#if about}{@render about()}{:else if subtitle}<span class="soft">{subtitle}</span>{/if}
  </div>
  {#if places.length > 0}
    <nav aria-label={phrases.topBar.places}>
      {#each places as { place, href } (place)}
        {#if href === null}
          <span class="place none" aria-disabled="true" title={phrases.topBar.notYet}>{placeOf(place).title}</span>
        {:else}
          <a
            class="place"
            {href}
            aria-current={place === here ? 'page' : undefined}
            title={phrases.topBar.place(placeOf(place).title, surfaceKey(placeOf(place).go), placeOf(place).about)}
            >{placeOf(place).title}</a
          >
        {/if}
      {/each}
    </nav>
  {/if}
  <div class="end">
    <Background />
    {@render status?.()}
    <button
      class="icon"
      aria-label={phrases.topBar.changeTheme(nextMode)}
      title={phrases.topBar.changeTheme(nextMode)}
      onclick={() => preferences.set({ mode: nextMode })}
    >
      {#if nextMode === 'dark'}<Moon size={17} />{:else}<Sun size={17} />{/if}
    </button>
    {#if onKeys}<button
        class="key help"
        aria-label={phrases.topBar.keys}
        title={phrases.topBar.keysHint}
        onclick={onKeys}>?</button
      >{/if}
  </div>
</header>

<style>
  header {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto minmax(min-content, 1fr);
    align-items: center;
    gap: 16px;
    height: 52px;
    padding: 0 18px 0 20px;
    border-bottom: 1px solid var(--rule);
    background: var(--paper);
  }
  .home {
    display: grid;
    border-radius: 4px;
  }
  .what {
    display: flex;
    align-items: baseline;
    gap: 18px;
    min-width: 0;
  }
  h1 {
    font-size: 17px;
    font-weight: 700;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .what :global(span) {
    white-space: nowrap;
  }
  nav {
    display: flex;
    gap: 2px;
  }
  .place {
    padding: 5px 10px;
    border-radius: 3px 10px 3px 10px;
    color: var(--soft-ink);
    font-size: 16px;
    text-decoration: none;
  }
  .place:hover:not(.none) {
    color: var(--ink);
    background: var(--pale-leaf);
  }
  .place[aria-current] {
    background: var(--leaf);
    color: var(--on-leaf);
    font-weight: 700;
  }
  .place.none {
    cursor: default;
  }
  .end {
    grid-column: -2;
    display: flex;
    align-items: center;
    justify-content: flex-end;
    gap: 14px;
  }
  .help:hover {
    color: var(--ink);
    background: var(--pale-leaf);
  }
  .help {
    color: var(--soft-ink);
    font-family: var(--mono);
    cursor: pointer;
  }
  @media (max-width: 1180px) {
    header {
      gap: 10px;
    }
    .what {
      gap: 10px;
    }
    .place {
      padding: 5px 7px;
      font-size: 15px;
    }
  }
</style>
