<script lang="ts">
  import type { HearingRequest } from '$lib/client/api';

  interface Props {
    background: NonNullable<HearingRequest['background']>;
  }
  let { background = $bindable() }: Props = $props();
</script>

<label
  >Under the voices
  <select class="field" bind:value={background}>
    <option value="none">Nothing else</option>
    <option value="music">Music: taken away first</option>
    <option value="noise">Steady noise: taken away first</option>
  </select></label
>
