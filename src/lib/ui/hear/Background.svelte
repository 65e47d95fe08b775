<script lang="ts">
  import type { HearingRequest } from '$lib/client/api';

  interface Props {
    background: NonNullable<HearingRequest['background']>;
  }
  let { background = $bindable() }: Props = $props();
</script>

<label
  >Background
  <select class="field" bind:value={background}>
    <option value="none">None</option>
    <option value="music">Music, removed first</option>
    <option value="noise">Steady noise, removed first</option>
  </select></label
>
