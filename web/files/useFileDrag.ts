import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue';

const holdsFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false;

/**
 * Files dragged over the window and dropped anywhere in it, but for places that take them themselves.
 * @param isFree whether they are taken now
 */
export function useFileDrag(
  isFree: Readonly<Ref<boolean>>,
  take: (files: FileList) => unknown,
): { isOver: Ref<boolean> } {
  const isOver = ref(false);
  /** Each element that is entered is one more to be left. */
  let depth = 0;
  const enter = (event: DragEvent): void => {
    if (!holdsFiles(event) || !isFree.value) return;
    depth++;
    isOver.value = true;
  };
  const leave = (event: DragEvent): void => {
    if (!holdsFiles(event) || depth === 0) return;
    depth--;
    isOver.value = depth > 0;
  };
  const over = (event: DragEvent): void => {
    if (holdsFiles(event)) event.preventDefault();
  };
  const drop = (event: DragEvent): void => {
    if (!holdsFiles(event)) return;
    const isTaken = event.defaultPrevented;
    // A file that no place takes would be opened instead of the page.
    event.preventDefault();
    depth = 0;
    isOver.value = false;
    if (!isTaken && isFree.value && event.dataTransfer) take(event.dataTransfer.files);
  };
  const listeners = [
    ['dragenter', enter],
    ['dragleave', leave],
    ['dragover', over],
    ['drop', drop],
  ] as const;
  onMounted(() => listeners.forEach(([name, listener]) => window.addEventListener(name, listener)));
  onBeforeUnmount(() => listeners.forEach(([name, listener]) => window.removeEventListener(name, listener)));
  return { isOver };
}
