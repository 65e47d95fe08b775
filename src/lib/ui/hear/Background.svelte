<script lang="ts">
  import type { HearingRequest } from '$lib/client/api';
  import { phrases } from './phrases';

  interface Props {
    background: NonNullable<HearingRequest['background']>;
  }
  let { background = $bindable() }: Props = $props();
</script>

<label
  >{phrases.background.background}
  <select class="field" bind:value={background}>
    <option value="none">{phrases.background.none}</option>
    <option value="music">{phrases.background.musicRemovedFirst}</option>
    <option value="noise">{phrases.background.steadyNoiseRemovedFirst}</option>
  </select></label
>
