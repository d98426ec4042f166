<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { api } from '../api/client'
import { said } from '../api/latest'
import type { ShelfEntry } from '../api/types'
import { bytes, count, size, volume } from '../format'
import NewProject from '../parts/NewProject.vue'
import ThemeSwitch from '../parts/ThemeSwitch.vue'
import Thumbnail from '../parts/Thumbnail.vue'
import Wordmark from '../parts/Wordmark.vue'

const shelf = ref<ShelfEntry[] | null>(null)
const removed = ref<ShelfEntry[]>([])
const showRemoved = ref(false)
const problem = ref('')
const gone = ref<ShelfEntry | null>(null)
const naming = ref<number | null>(null)
const newName = ref('')

const room = computed(() => (shelf.value ?? []).reduce((sum, entry) => sum + entry.bytes, 0))

async function load() {
    try {
        ;[shelf.value, removed.value] = await Promise.all([api.shelf(), api.shelf(true)])
        problem.value = ''
    } catch (error) {
        problem.value = said(error)
    }
}

/** Whether it was done; why not is said. */
async function act(change: () => Promise<unknown>): Promise<boolean> {
    try {
        await change()
    } catch (error) {
        problem.value = said(error)
        return false
    }
    await load()
    return true
}

async function remove(entry: ShelfEntry) {
    if (await act(() => api.remove(entry.id))) gone.value = entry
}

async function back(entry: ShelfEntry) {
    if (await act(() => api.restore(entry.id))) gone.value = null
}

async function rename(entry: ShelfEntry) {
    naming.value = entry.id
    newName.value = entry.name
    await nextTick()
    document.querySelector<HTMLInputElement>('input.naming')?.select()
}

function named(entry: ShelfEntry) {
    if (naming.value !== entry.id) return
    naming.value = null
    const name = newName.value.trim()
    if (name && name !== entry.name) void act(() => api.change(entry.id, { name }))
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
                <p class="soft">{{ shelf ? `${count(shelf.length, 'project', 'projects')}, ${bytes(room)}` : 'Looking…' }}</p>
            </div>
            <NewProject />
            <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
            <p v-if="gone" class="gone" role="status">{{ gone.name }} is off the shelf. <button class="link" @click="back(gone)">Take it back</button></p>
            <ul v-if="shelf?.length" class="projects">
                <li v-for="entry in shelf" :key="entry.id" class="project">
                    <RouterLink :to="{ name: 'project', params: { id: entry.id } }" :aria-label="`Open ${entry.name}`">
                        <Thumbnail v-if="entry.largest" :parts="[entry.largest, ...entry.beside]" />
                        <div v-else class="waiting soft">being brought in</div>
                        <h2 v-if="naming !== entry.id">{{ entry.name }}</h2>
                    </RouterLink>
                    <input
                        v-if="naming === entry.id" v-model="newName" class="naming" maxlength="120" :aria-label="`New name of ${entry.name}`"
                        @keydown.enter="named(entry)" @keydown.esc="naming = null" @blur="named(entry)"
                    >
                    <p v-if="entry.note" class="note">{{ entry.note }}</p>
                    <p v-if="entry.size" class="soft">{{ size(entry.size) }} · {{ volume(entry.volume) }}</p>
                    <p class="soft">
                        {{ count(entry.pieces, 'piece', 'pieces') }},
                        <span :class="entry.watertight ? 'good' : 'warning'">{{ entry.watertight ? 'watertight' : 'not all watertight' }}</span>
                        <span v-if="entry.too_large" class="warning">, {{ entry.too_large === entry.pieces && entry.pieces === 1 ? 'too large' : `${entry.too_large} too large` }} for the printer</span>
                    </p>
                    <p class="soft last">
                        <span>{{ when(entry.changed) }} · {{ bytes(entry.bytes) }}</span>
                        <span class="acts">
                            <button class="link" :aria-label="`Rename ${entry.name}`" @click="rename(entry)">rename</button>
                            <button class="link" :aria-label="`Copy ${entry.name}`" @click="act(() => api.duplicate(entry.id))">copy</button>
                            <button class="link" :aria-label="`Remove ${entry.name}`" @click="remove(entry)">remove</button>
                        </span>
                    </p>
                </li>
            </ul>
            <p v-else-if="shelf" class="soft empty">The shelf is empty. Drop a mesh above to begin.</p>
            <section v-if="removed.length" class="removed" aria-label="Removed projects">
                <button class="link" :aria-expanded="showRemoved" @click="showRemoved = !showRemoved">{{ count(removed.length, 'removed project', 'removed projects') }}, kept for 30 days</button>
                <ul v-if="showRemoved">
                    <li v-for="entry in removed" :key="entry.id">
                        <span>{{ entry.name }}</span><span class="soft">{{ entry.removed ? when(entry.removed) : '' }} · {{ bytes(entry.bytes) }}</span>
                        <button class="link" :aria-label="`Take back ${entry.name}`" @click="back(entry)">take back</button>
                        <button class="link" :aria-label="`Remove ${entry.name} for good`" @click="act(() => api.purge(entry.id))">remove for good</button>
                    </li>
                </ul>
            </section>
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

.projects {
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

.last {
    display: flex;
    justify-content: space-between;
    font-size: 13px;
}

.acts {
    display: inline-flex;
    gap: 12px;
}

.naming {
    width: 100%;
    margin: 8px 0 4px;
    padding: 3px 6px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--field);
    color: inherit;
    font: 600 17px 'Source Serif 4 Variable', serif;
}

.gone {
    padding: 8px 14px;
    border: 1px solid var(--rule);
    border-left: 3px solid var(--good);
    background: var(--sheet);
}

.removed {
    margin-top: 34px;
}

.removed ul {
    margin: 8px 0 0;
    padding: 0;
    list-style: none;
}

.removed li {
    display: flex;
    gap: 18px;
    padding: 4px 0;
}

.problem {
    color: var(--cut);
}

.empty {
    margin-top: 40px;
    text-align: center;
}
</style>
