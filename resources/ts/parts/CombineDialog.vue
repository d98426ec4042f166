<script setup lang="ts">
import { computed } from 'vue'
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { count, volume } from '../format'
import { useCombine } from '../stores/combine'
import { title, useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'

const combine = useCombine()
const project = useProject()

const WAYS = [
    { value: 'unite', text: 'Unite', hint: 'One piece of several' },
    { value: 'subtract', text: 'Subtract', hint: 'Some pieces are taken out of the others' },
    { value: 'common', text: 'Common', hint: 'What is in all of them' },
] as const

const heading = computed(() => (project.editing === null ? `Combine ${count(combine.pieces.length, 'piece', 'pieces')}` : `Step ${project.stepOf(project.editing)?.number}: combine`))
/** Tools that stayed are not among the pieces that the step took. */
const others = computed(() => combine.tools.filter((name) => !combine.pieces.some((piece) => piece.name === name)))
const action = computed(() => (project.editing !== null ? 'Run again' : WAYS.find(({ value }) => value === combine.way)?.text))
</script>

<template>
    <ElDialog :model-value="combine.open" :title="heading" width="520" @update:model-value="combine.close()">
        <ChoiceRow v-model="combine.way" :options="[...WAYS]" label="How pieces are combined" />
        <p class="soft">{{ combine.sentence }}</p>
        <ul>
            <li v-for="piece in combine.pieces" :key="piece.id">
                <span class="swatch" :style="{ background: piece.colour }" />
                <span class="name" :title="title(piece)">{{ title(piece) }}</span>
                <span class="soft">{{ volume(piece.volume) }}</span>
                <span v-if="!piece.watertight" class="warning">not watertight</span>
                <ElCheckbox v-if="combine.way === 'subtract'" :model-value="combine.tools.includes(piece.name)" :aria-label="`Take out ${title(piece)}`" @update:model-value="combine.mark(piece.name, $event === true)">take out</ElCheckbox>
            </li>
            <li v-for="name in combine.way === 'subtract' ? others : []" :key="name"><span class="name">{{ name }}</span><span class="soft">is taken out and stays</span></li>
        </ul>
        <div v-if="combine.way === 'subtract'" class="line">
            <span>Gap all round</span>
            <NumberField :model-value="combine.gap" unit="mm" label="Gap all round" :digits="2" :step="0.05" :min="0" :max="1000" @update:model-value="combine.gap = $event" />
        </div>
        <ElCheckbox v-if="combine.way === 'subtract'" :model-value="!combine.spend" @update:model-value="combine.spend = $event !== true">Keep what is taken out, as pieces of their own</ElCheckbox>
        <p v-if="project.problem" class="warning" role="alert">{{ project.problem }}</p>
        <template #footer>
            <ElButton @click="combine.close()">Leave it</ElButton>
            <ElButton type="primary" :disabled="!combine.ready" :loading="combine.working" @click="combine.run()">{{ action }}</ElButton>
        </template>
    </ElDialog>
</template>

<style scoped>
:deep(.el-checkbox) {
    --el-checkbox-checked-text-color: var(--ink);
}

p {
    margin: 10px 0;
}

ul {
    max-height: 260px;
    margin: 0 0 10px;
    padding: 0;
    overflow: auto;
    border-top: 1px solid var(--rule);
    list-style: none;
}

.line {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 6px;
}

li {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 33px;
    border-bottom: 1px solid var(--rule);
}

.swatch {
    flex: none;
    width: 14px;
    height: 14px;
    border-radius: 2px;
}

.name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.warning {
    color: var(--cut);
}
</style>
