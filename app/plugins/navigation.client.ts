export default defineNuxtPlugin(() => watchNavigation(useRouter()))
