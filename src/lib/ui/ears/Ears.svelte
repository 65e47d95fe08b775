<script lang="ts">
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { earCalls, type Ear, type EarList } from '$lib/client/ears/calls';
  import TopBar from '../frame/TopBar.svelte';
  import EarRow from './EarRow.svelte';
  import { phrases } from './phrases';

  const AGAIN_MS = 700;
  let list = $state.raw<EarList | null>(null);
  let failure = $state<string | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;

  /** While one is being tried out it is asked again. */
  async function load(): Promise<void> {
    clearTimeout(timer);
    try {
      list = await earCalls.list();
      failure = null;
      if (list.ears.some(({ state }) => state === 'trying')) timer = setTimeout(() => void load(), AGAIN_MS);
    } catch (error) {
      failure = messageOf(error);
    }
  }
  onMount(() => {
    void load();
    return () => clearTimeout(timer);
  });
</script>

<svelte:head><title>{phrases.page} · Vine Tap</title></svelte:head>
<!-- Folders are changed in other programs. -->
<svelte:window onfocus={() => void load()} />

<TopBar title={phrases.page} subtitle={phrases.about} />

<main>
  <section aria-labelledby="ears-title">
    <div class="head">
      <h2 id="ears-title">{phrases.list.title}</h2>
      <button class="act" onclick={() => void load()}>{phrases.list.lookAgain}</button>
    </div>
    {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
    {#if list !== null}
      <p class="soft">
        {list.ears.length === 0 ? phrases.list.none : phrases.list.folder} <code>{list.folder}</code>
      </p>
      <ul data-testid="ears">
        {#each list.ears as ear (ear.id)}
          <EarRow {ear} onChanged={(_changed: Ear) => void load()} />
        {/each}
      </ul>
    {/if}
  </section>
  <aside aria-labelledby="help-title">
    <h2 id="help-title">{phrases.help.title}</h2>
    <p>{phrases.help.about}</p>
    <dl>
      {#each phrases.help.kinds as [kind, files] (kind)}
        <dt>{kind}</dt>
        <dd>{files}</dd>
      {/each}
    </dl>
    <p class="soft">{phrases.help.precision}</p>
    <p class="soft">{phrases.help.tried}</p>
    <p class="soft">{phrases.help.hear}</p>
  </aside>
</main>

<style>
  main {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(240px, 340px);
    gap: 40px;
    max-width: 1120px;
    padding: 24px 18px;
    margin: 0 auto;
  }
  .head {
    display: flex;
    gap: 12px;
    align-items: center;
    justify-content: space-between;
  }
  h2 {
    font-size: 18px;
    font-weight: 700;
  }
  ul {
    margin-top: 12px;
  }
  code {
    overflow-wrap: anywhere;
  }
  aside {
    display: grid;
    gap: 12px;
    align-content: start;
  }
  dl {
    display: grid;
    gap: 4px;
  }
  dt {
    font-weight: 700;
  }
  dd {
    margin-bottom: 6px;
  }
  .failed {
    color: var(--clay);
  }
  @media (max-width: 760px) {
    main {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
