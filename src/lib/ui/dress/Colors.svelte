<script lang="ts">
  import { contrastRatio } from '$lib/core/light';
  import { hasOutline, hasShadow } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ColorField from './ColorField.svelte';
  import ValueField from './ValueField.svelte';
  import { phrases } from './phrases';

  const { dressing } = useTrackDesk();
  const look = $derived(dressing.look);
  const own = $derived(dressing.own);
  const isOutlined = $derived(hasOutline(look));
  const isShaded = $derived(hasShadow(look));

  const against = (one: string, other: string, what: string): string =>
    phrases.colors.against(contrastRatio(one, other).toFixed(1), what);
  const textAgainst = $derived(
    isOutlined
      ? against(look.color, look.outline!.color, phrases.colors.outlineOf)
      : look.box.kind === 'none'
        ? ''
        : against(look.color, look.box.color, phrases.colors.box)
  );
</script>

<ColorField
  label={phrases.colors.text}
  value={look.color}
  isOwn={own.has('color')}
  against={textAgainst}
  onTry={(color: string) => dressing.try({ color })}
  onSet={(color: string) => dressing.set({ color })}
  onLetGo={() => dressing.letGo({ color: null })}
/>
<label class="check">
  <input
    type="checkbox"
    checked={isOutlined}
    onchange={({ currentTarget }) =>
      dressing.set({ outline: currentTarget.checked ? { color: '#000000', widthEm: 0.06 } : { widthEm: 0 } })}
  />
  {phrases.colors.outline}
</label>
{#if isOutlined}
  <ColorField
    label={phrases.colors.outline}
    value={look.outline!.color}
    isOwn={own.has('outline.color')}
    onTry={(color: string) => dressing.try({ outline: { color } })}
    onSet={(color: string) => dressing.set({ outline: { color } })}
    onLetGo={() => dressing.letGo({ outline: { color: null } })}
  />
  <ValueField
    label={phrases.colors.outlineWidth}
    unit={phrases.letters.em}
    value={look.outline!.widthEm}
    least={0}
    most={0.5}
    step={0.005}
    isOwn={own.has('outline.widthEm')}
    onTry={(widthEm: number) => dressing.try({ outline: { widthEm } })}
    onSet={(widthEm: number) => dressing.set({ outline: { widthEm } })}
    onLetGo={() => dressing.letGo({ outline: { widthEm: null } })}
  />
{/if}
<label class="check">
  <input
    type="checkbox"
    checked={isShaded}
    onchange={({ currentTarget }) =>
      dressing.set({
        shadow: currentTarget.checked
          ? { color: '#000000', xEm: 0.04, yEm: 0.04, blurEm: 0.06 }
          : { xEm: 0, yEm: 0, blurEm: 0 }
      })}
  />
  {phrases.colors.shadow}
</label>
{#if isShaded && look.shadow !== null}
  <ColorField
    label={phrases.colors.shadow}
    value={look.shadow.color}
    isOwn={own.has('shadow.color')}
    onTry={(color: string) => dressing.try({ shadow: { color } })}
    onSet={(color: string) => dressing.set({ shadow: { color } })}
    onLetGo={() => dressing.letGo({ shadow: { color: null } })}
  />
  <ValueField
    label={phrases.colors.shadowX}
    unit={phrases.letters.em}
    value={look.shadow.xEm}
    least={-1}
    most={1}
    step={0.01}
    isOwn={own.has('shadow.xEm')}
    onTry={(xEm: number) => dressing.try({ shadow: { xEm } })}
    onSet={(xEm: number) => dressing.set({ shadow: { xEm } })}
    onLetGo={() => dressing.letGo({ shadow: { xEm: null } })}
  />
  <ValueField
    label={phrases.colors.shadowY}
    unit={phrases.letters.em}
    value={look.shadow.yEm}
    least={-1}
    most={1}
    step={0.01}
    isOwn={own.has('shadow.yEm')}
    onTry={(yEm: number) => dressing.try({ shadow: { yEm } })}
    onSet={(yEm: number) => dressing.set({ shadow: { yEm } })}
    onLetGo={() => dressing.letGo({ shadow: { yEm: null } })}
  />
  <ValueField
    label={phrases.colors.shadowBlur}
    unit={phrases.letters.em}
    value={look.shadow.blurEm}
    least={0}
    most={1}
    step={0.01}
    isOwn={own.has('shadow.blurEm')}
    onTry={(blurEm: number) => dressing.try({ shadow: { blurEm } })}
    onSet={(blurEm: number) => dressing.set({ shadow: { blurEm } })}
    onLetGo={() => dressing.letGo({ shadow: { blurEm: null } })}
  />
{/if}

<style>
  .check {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 14px;
    font-weight: 600;
  }
</style>
