<script setup lang="ts">
import { ref, watch } from 'vue'
import { api } from '../api/client'
import type { Material, Piece } from '../api/types'
import { count } from '../format'
import { current } from '../kinds'
import { station } from '../stations'
import { useBlade } from '../stores/blade'
import { usePaint } from '../stores/paint'
import { useProject } from '../stores/project'

const props = defineProps<{ piece: Piece }>()
const project = useProject()
const blade = useBlade()
const materials = ref<Material[]>([])

watch(() => props.piece.mesh, async (mesh) => {
    materials.value = []
    try {
        const known = await api.materials(mesh)
        if (props.piece.mesh === mesh) materials.value = known
    } catch (error) {
        project.refused(error)
    }
}, { immediate: true })

/** Can a cut be limited now? In the Cut station, with one flat blade. */
const canLimit = () => station().id === 'cut' && current().id === 'planes' && !blade.series

/** The faces of a material, beside those that were picked before on this piece. */
async function limit(material: Material) {
    try {
        const { faces } = await api.facesOf(props.piece.mesh, material.number)
        const before = blade.faces?.piece === props.piece.id ? blade.faces.list : []
        blade.faces = { piece: props.piece.id, list: [...new Set([...before, ...faces])].sort((a, b) => a - b) }
        blade.touched()
    } catch (error) {
        project.refused(error)
    }
}
</script>

<template>
    <ul v-if="materials.length" class="materials" aria-label="Materials">
        <li v-for="material in materials" :key="material.number">
            <img v-if="material.picture" :src="api.pictureAt(material.picture)" alt="">
            <svg v-else viewBox="0 0 14 14" aria-hidden="true"><rect width="14" height="14" rx="2" :fill="material.colour" /></svg>
            <span class="name" :title="`${material.name}: ${count(material.triangles, 'triangle', 'triangles')}`">{{ material.name }}</span>
            <button class="link first" :disabled="project.busy" :aria-label="`Paint ${material.name}`" title="Give it another colour or picture" @click="usePaint().start(piece, material)">paint…</button>
            <button v-if="canLimit()" class="link" :aria-label="`Cut only within ${material.name}`" title="The cut stays within what has this material; again all of them with “all faces”" @click="limit(material)">cut within</button>
        </li>
    </ul>
</template>

<style scoped>
.materials {
    flex-basis: 100%;
    min-width: 0;
    margin: 4px 0 0 24px;
    padding: 0;
    list-style: none;
}

li {
    display: flex;
    align-items: center;
    gap: 7px;
    padding: 1px 0;
    font-size: 13px;
}

img,
svg {
    flex: none;
    width: 14px;
    height: 14px;
    border-radius: 2px;
    object-fit: cover;
}

.name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.link {
    white-space: nowrap;
}

.first {
    margin-left: auto;
}
</style>
