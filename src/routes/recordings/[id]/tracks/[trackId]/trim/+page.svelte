<script lang="ts">
  import Trim from '$lib/ui/trim/Trim.svelte';
</script>

<Trim />
