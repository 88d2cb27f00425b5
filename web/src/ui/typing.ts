import type { ObjectDirective } from 'vue'

type Field = HTMLInputElement | HTMLTextAreaElement
/** Fields that hold text which has not been entered yet. */
const unfinished = new WeakSet<Field>()

/**
 * `v-typing`: for a field with `:value` that is entered on `change`. What stands in it half typed
 * stays when the page draws itself anew meanwhile, as it does for each answer and each change by
 * somebody else; without it the value that was there before comes back over the typing.
 */
export const typing: ObjectDirective<Field> = {
  created(field) {
    field.addEventListener('input', () => unfinished.add(field))
    for (const end of ['change', 'blur']) field.addEventListener(end, () => unfinished.delete(field))
  },
  beforeUpdate(field, _, vnode) {
    // The props that are about to be laid over the field; a copy would come too late.
    if (unfinished.has(field) && vnode.props) vnode.props.value = field.value
  },
}
