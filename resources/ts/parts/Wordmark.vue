<template>
    <span class="mark">Iso<i>|</i>tome</span>
</template>

<style scoped>
.mark {
    font: 600 21px 'Source Serif 4 Variable', serif;
    letter-spacing: 0.01em;
}

i {
    margin: 0 1px;
    color: var(--cut);
    font-style: normal;
    font-weight: 400;
}
</style>
