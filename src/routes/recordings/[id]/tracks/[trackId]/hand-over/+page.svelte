<script lang="ts">
  import HandOver from '$lib/ui/hand-over/HandOver.svelte';
</script>

<HandOver />
