import '@fontsource-variable/source-sans-3'
import '@fontsource-variable/source-serif-4'
import 'element-plus/dist/index.css'
import '../css/tokens.css'
import '../css/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import App from './App.vue'
import ProjectPage from './pages/ProjectPage.vue'
import SheetPage from './pages/SheetPage.vue'
import ShelfPage from './pages/ShelfPage.vue'
import { useSettings } from './stores/settings'

const router = createRouter({
    history: createWebHistory(),
    routes: [
        { path: '/', name: 'shelf', component: ShelfPage },
        { path: '/project/:id(\\d+)', name: 'project', component: ProjectPage, props: (route) => ({ id: Number(route.params.id) }) },
        { path: '/project/:id(\\d+)/sheet', name: 'sheet', component: SheetPage, props: (route) => ({ id: Number(route.params.id) }) },
        { path: '/:rest(.*)*', redirect: '/' },
    ],
})

const app = createApp(App).use(createPinia()).use(router)
useSettings().keep()
app.mount('#app')
