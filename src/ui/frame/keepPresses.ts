/**
 * A page is on the screen before its scripts are there. What is pressed, chosen or typed in between is kept, and done once they are: nothing is lost, and
 * nothing is done twice. Links need no script. A field that only gets its old value back says nothing: so it is given another before what was typed.
 * Chosen files are still in their field, which takes no value from a script: it only says so again.
 * Runs in the page as it is written here, before anything else does.
 */
export const keepPresses = `(() => {
  const types = ['pointerdown', 'click', 'input', 'change'];
  const fields = 'input, select, textarea';
  const kept = [];
  const typed = new Map();
  const keep = (event) => {
    const { target, type } = event;
    if (type === 'input' || type === 'change') {
      event.stopImmediatePropagation();
      typed.set(target, /^(?:checkbox|radio)$/.test(target.type) ? target.checked : target.value);
    } else if (type === 'click' ? !target.closest('a[href], label, summary, ' + fields) : target.closest('[aria-haspopup=menu]')) {
      event.stopImmediatePropagation();
      kept.push(event);
    }
  };
  const fill = (field, value) => {
    if (field.type === 'file') {
      field.dispatchEvent(new Event('change', { bubbles: true }));
      return;
    }
    if (typeof value === 'boolean') {
      field.checked = !value;
      field.click();
      return;
    }
    if (field.tagName !== 'SELECT') field.value = value === '' ? '0' : '';
    Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value').set.call(field, value);
    field.dispatchEvent(new Event(field.tagName === 'SELECT' ? 'change' : 'input', { bubbles: true }));
  };
  for (const type of types) addEventListener(type, keep, true);
  window.doKeptPresses = () => {
    for (const type of types) removeEventListener(type, keep, true);
    for (const [field, value] of typed) if (field.isConnected) fill(field, value);
    typed.clear();
    for (const event of kept.splice(0)) if (event.target.isConnected) event.target.dispatchEvent(new event.constructor(event.type, event));
  };
})();`;
