<script lang="ts">
  import Ears from '$lib/ui/ears/Ears.svelte';
</script>

<Ears />
