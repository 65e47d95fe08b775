<script lang="ts">
  import { page } from '$app/state';
  import TopBar from '$lib/ui/frame/TopBar.svelte';
</script>

<TopBar title="Vine Tap" />
<main>
  <h2>{page.status === 404 ? 'There is nothing at this address' : 'This could not be opened'}</h2>
  <p>{page.error?.message ?? ''}</p>
  <a class="act" href="/">All recordings</a>
</main>

<style>
  main {
    display: grid;
    justify-items: start;
    gap: 10px;
    padding: 60px;
  }
  h2 {
    font-size: 20px;
    font-weight: 700;
  }
</style>
