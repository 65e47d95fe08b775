<script lang="ts">
  import Read from '$lib/ui/read/Read.svelte';
</script>

<Read />
