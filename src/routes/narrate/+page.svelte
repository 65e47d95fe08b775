<script lang="ts">
  import Narrate from '$lib/ui/narrate/Narrate.svelte';
</script>

<Narrate />
