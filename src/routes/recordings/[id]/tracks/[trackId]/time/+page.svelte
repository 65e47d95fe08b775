<script lang="ts">
  import Time from '$lib/ui/time/Time.svelte';
</script>

<Time />
