<script lang="ts">
  import Hear from '$lib/ui/hear/Hear.svelte';
  import type { PageProps } from './$types';

  let { params }: PageProps = $props();
</script>

{#key params.id}<Hear recordingId={params.id} />{/key}
