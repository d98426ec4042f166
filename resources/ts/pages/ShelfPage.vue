<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { ElMessageBox } from 'element-plus'
import { RouterLink } from 'vue-router'
import { api, Refused } from '../api/client'
import type { ShelfEntry } from '../api/types'
import { count, size, volume } from '../format'
import NewProject from '../parts/NewProject.vue'
import ThemeSwitch from '../parts/ThemeSwitch.vue'
import Thumbnail from '../parts/Thumbnail.vue'
import Wordmark from '../parts/Wordmark.vue'

/** Larger stock is not fetched for a small picture. */
const PICTURED = 300_000

const shelf = ref<ShelfEntry[] | null>(null)
const problem = ref('')

async function load() {
    try {
        shelf.value = await api.shelf()
        problem.value = ''
    } catch (error) {
        problem.value = error instanceof Refused ? error.message : 'The shelf could not be read; reload the page.'
    }
}

async function remove(entry: ShelfEntry) {
    const agreed = await ElMessageBox.confirm(
        `${entry.name} goes from the shelf with its ${count(entry.pieces, 'piece', 'pieces')} and steps. This cannot be taken back.`, 'Remove this project?',
        { confirmButtonText: 'Remove', cancelButtonText: 'Keep it', type: 'warning' },
    ).catch(() => false)
    if (agreed === false) return
    try {
        await api.remove(entry.id)
    } catch (error) {
        problem.value = error instanceof Refused ? error.message : 'The project could not be removed; try again.'
    }
    await load()
}

const when = (iso: string) => new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })

onMounted(() => {
    document.title = 'Isotome'
    void load()
})
</script>

<template>
    <div class="page">
        <header class="top"><Wordmark /><ThemeSwitch /></header>
        <main>
            <div class="head">
                <h1>Shelf</h1>
                <p class="soft">{{ shelf ? count(shelf.length, 'project', 'projects') : 'Looking…' }}</p>
            </div>
            <NewProject />
            <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
            <ul v-if="shelf?.length">
                <li v-for="entry in shelf" :key="entry.id" class="project">
                    <RouterLink :to="{ name: 'project', params: { id: entry.id } }" :aria-label="`Open ${entry.name}`">
                        <Thumbnail v-if="entry.stock && entry.stock.triangles <= PICTURED" :mesh="entry.stock.mesh" :colour="entry.stock.colour" />
                        <div v-else class="waiting soft">{{ entry.stock ? count(entry.stock.triangles, 'triangle', 'triangles') : 'being brought in' }}</div>
                        <h2>{{ entry.name }}</h2>
                    </RouterLink>
                    <p v-if="entry.note" class="note">{{ entry.note }}</p>
                    <p v-if="entry.stock" class="soft">{{ size(entry.stock.max.map((m, k) => m - entry.stock!.min[k])) }} · {{ volume(entry.stock.volume) }}</p>
                    <p class="soft">
                        {{ count(entry.pieces, 'piece', 'pieces') }},
                        <span :class="entry.watertight ? 'good' : 'warning'">{{ entry.watertight ? 'watertight' : 'not all watertight' }}</span>
                        · {{ when(entry.changed) }}
                    </p>
                    <button class="link remove" :aria-label="`Remove ${entry.name}`" @click="remove(entry)">remove</button>
                </li>
            </ul>
            <p v-else-if="shelf" class="soft empty">The shelf is empty. Drop a mesh above to begin.</p>
        </main>
    </div>
</template>

<style scoped>
.page {
    min-height: 100%;
    background: var(--ground);
}

.top {
    display: flex;
    align-items: center;
    justify-content: space-between;
    height: 46px;
    padding: 0 16px;
    border-bottom: 1px solid var(--rule);
    background: var(--sheet);
    font-size: 13px;
}

main {
    max-width: 1080px;
    margin: 0 auto;
    padding: 26px 24px 60px;
}

.head {
    display: flex;
    align-items: baseline;
    gap: 14px;
    margin-bottom: 14px;
}

h1 {
    font-size: 28px;
}

ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
    gap: 20px;
    margin: 24px 0 0;
    padding: 0;
    list-style: none;
}

.project {
    position: relative;
    padding: 0 16px 14px;
    border: 1px solid var(--rule);
    border-radius: 4px;
    background: var(--sheet);
}

.project:hover {
    border-color: var(--soft);
}

.project a {
    display: block;
    margin: 0 -16px;
    color: var(--ink);
}

.project h2 {
    margin: 12px 16px 4px;
}

.project p {
    margin: 0 0 4px;
}

.note {
    padding-bottom: 4px;
}

.waiting {
    display: grid;
    place-content: center;
    height: 230px;
    background: var(--ground);
}

.remove {
    position: absolute;
    right: 16px;
    bottom: 14px;
    color: var(--soft);
    font-size: 13px;
}

.problem {
    color: var(--cut);
}

.empty {
    margin-top: 40px;
    text-align: center;
}
</style>
