<script lang="ts">
  import Translate from '$lib/ui/translate/Translate.svelte';
</script>

<Translate />
