<script lang="ts">
  import Dress from '$lib/ui/dress/Dress.svelte';
</script>

<Dress />
