<script lang="ts">
  import { asTrackId } from '$lib/core/id';
  import { page } from '$app/state';
  import type { PLACE_PARTS } from '$lib/ui/places';
  import TrackFrame from '$lib/ui/frame/TrackFrame.svelte';
  import type { LayoutProps } from './$types';

  let { children, params }: LayoutProps = $props();
  const place = $derived(page.url.pathname.split('/').at(-1) as keyof typeof PLACE_PARTS);
</script>

{#key params.trackId}
  <TrackFrame recordingId={params.id} trackId={asTrackId(params.trackId)} {place} {children} />
{/key}
