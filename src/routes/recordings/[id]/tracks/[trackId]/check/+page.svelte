<script lang="ts">
  import Check from '$lib/ui/check/Check.svelte';
</script>

<Check />
