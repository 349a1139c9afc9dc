<script setup lang="ts">
import type { NumberRules } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import ActButton from '../../parts/ActButton.vue';
import TickBox from '../../parts/fields/TickBox.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

type Rules = Omit<NumberRules, 'accepted'>;
/** Units an answer may be written in, how many decimals it has, and whether its sign counts. */
const props = defineProps<{ value: Rules }>();
const emit = defineEmits<{ change: [rules: Rules] }>();
type Unit = Rules['units'][number];
const put = (more: Partial<Rules>): void => {
  const { units, isUnitNeeded, decimals, isSignFree } = props.value;
  emit('change', { units, isUnitNeeded, decimals, isSignFree, ...more });
};
const setUnit = (at: number, more: Partial<Unit>): void =>
  put({ units: props.value.units.map((u, n) => (n === at ? { ...u, ...more } : u)) });
const setDecimals = (decimals: string | number): void => put({ decimals: decimals === '' ? null : Number(decimals) });
</script>

<template>
  <div class="units">
    <p v-for="(u, n) in value.units" :key="n" class="row">
      <span class="soft">{{ n === 0 ? 'in' : 'or in' }}</span>
      <LineInput class="name" :value="u.name" :aria-label="`Unit ${n + 1}`" @commit="setUnit(n, { name: $event.trim() })" />
      <template v-if="n > 0">
        <span class="soft">one is</span>
        <LineInput
          class="factor"
          :value="u.factor"
          :aria-label="`One ${u.name} in ${value.units[0]?.name}`"
          @commit="setUnit(n, { factor: $event.trim() })"
        />
        <span class="soft">{{ value.units[0]?.name }}</span>
      </template>
      <ActButton look="act" :aria-label="`Take the unit ${u.name} away`" @click="put({ units: value.units.filter((_, m) => m !== n) })">
        ×
      </ActButton>
    </p>
    <p class="row">
      <ActButton look="act" @click="put({ units: [...value.units, { name: '', factor: '1' }] })">Add unit</ActButton>
      <label v-if="value.units.length > 0"
        ><TickBox :model-value="value.isUnitNeeded" @change="put({ isUnitNeeded: !value.isUnitNeeded })" /> must be written</label
      >
      <label><TickBox :model-value="value.isSignFree" @change="put({ isSignFree: !value.isSignFree })" /> either sign</label>
      <ChoiceField class="decimals" aria-label="Decimals" :model-value="value.decimals ?? ''" @change="setDecimals">
        <option value="">any decimals</option>
        <option v-for="n in 7" :key="n" :value="n - 1">{{ n - 1 }} decimals</option>
      </ChoiceField>
    </p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 14px;
}
.name {
  width: 70px;
}
.factor {
  width: 80px;
}
.decimals {
  width: auto;
}
</style>
