<script lang="ts">
  import Recordings from '$lib/ui/recordings/Recordings.svelte';
</script>

<Recordings />
