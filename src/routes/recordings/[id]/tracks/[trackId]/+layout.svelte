<script lang="ts">
  import { page } from '$app/state';
  import type { Place } from '$lib/client/keys/commands';
  import WorkspaceFrame from '$lib/ui/frame/WorkspaceFrame.svelte';
  import type { LayoutProps } from './$types';

  let { children, params }: LayoutProps = $props();
  const place = $derived(page.url.pathname.split('/').at(-1) as Place);
</script>

{#key params.trackId}
  <WorkspaceFrame recordingId={params.id} trackId={params.trackId} {place} {children} />
{/key}
