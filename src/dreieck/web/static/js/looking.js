// What is looked at: the pointer is over it, or it has the keys.
export function onLook(selector, does) {
  for (const name of ["pointerover", "focusin"])
    document.addEventListener(name, ({ target }) => {
      const found = target.closest?.(selector);
      if (found) does(found);
    });
}
