<script lang="ts">
  import { MediaQuery } from 'svelte/reactivity';
  import { contrastRatio, LEAST_CONTRAST, luminanceOf } from '$lib/core/light';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ChoiceField from './ChoiceField.svelte';
  import ColorField from './ColorField.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const { dressing } = useTrackDesk();
  const motion = $derived(dressing.look.motion);
  const own = $derived(dressing.own);
  const BOXES = { dark: '#7c2860', light: '#f2c14e' };
  const still = new MediaQuery('prefers-reduced-motion: reduce');

  /** Letters that a box makes unreadable get one that does not. */
  function follow(how: typeof motion.follow): void {
    const { color } = dressing.look;
    const isUnfit = how === 'box' && contrastRatio(color, motion.followColor) < LEAST_CONTRAST.any;
    const followColor = luminanceOf(color) > 0.3 ? BOXES.dark : BOXES.light;
    dressing.set({ motion: { follow: how, ...(isUnfit && { followColor }) } });
  }
  const against = $derived(
    motion.follow === 'box'
      ? phrases.colors.against(contrastRatio(dressing.look.color, motion.followColor).toFixed(1), phrases.colors.box)
      : ''
  );
</script>

{#if still.current}<p class="soft" role="status">{phrases.motion.stillness}</p>{/if}
<ChoiceField
  label={phrases.motion.come}
  values={phrases.motion.arrivals}
  value={motion.come}
  isOwn={own.has('motion.come')}
  onSet={(come: typeof motion.come) => dressing.set({ motion: { come } })}
  onLetGo={() => dressing.letGo({ motion: { come: null } })}
/>
<ChoiceField
  label={phrases.motion.go}
  values={phrases.motion.arrivals}
  value={motion.go}
  isOwn={own.has('motion.go')}
  onSet={(go: typeof motion.go) => dressing.set({ motion: { go } })}
  onLetGo={() => dressing.letGo({ motion: { go: null } })}
/>
{#if motion.come !== 'cut' || motion.go !== 'cut'}
  <ValueField
    label={phrases.motion.length}
    unit={phrases.motion.ms}
    value={motion.lengthMs}
    least={0}
    most={2000}
    step={20}
    isOwn={own.has('motion.lengthMs')}
    onTry={(lengthMs: number) => dressing.try({ motion: { lengthMs: Math.round(lengthMs) } })}
    onSet={(lengthMs: number) => dressing.set({ motion: { lengthMs: Math.round(lengthMs) } })}
    onLetGo={() => dressing.letGo({ motion: { lengthMs: null } })}
  />
{/if}
<ChoiceField
  label={phrases.motion.follow}
  values={phrases.motion.follows}
  value={motion.follow}
  isOwn={own.has('motion.follow')}
  onSet={follow}
  onLetGo={() => dressing.letGo({ motion: { follow: null } })}
/>
{#if motion.follow === 'color' || motion.follow === 'box'}
  <ColorField
    label={phrases.motion.followColor}
    value={motion.followColor}
    isOwn={own.has('motion.followColor')}
    {against}
    onTry={(followColor: string) => dressing.try({ motion: { followColor } })}
    onSet={(followColor: string) => dressing.set({ motion: { followColor } })}
    onLetGo={() => dressing.letGo({ motion: { followColor: null } })}
  />
{/if}
