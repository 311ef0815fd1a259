// Shows where something that is pulled would come to lie.
const guide = document.getElementById("place-guide");

export function showGuide({ x, y, width, height }, says) {
  guide.hidden = false;
  guide.classList.toggle("bar", Math.min(width, height) < 6);
  Object.assign(guide.style, {
    left: `${x}px`,
    top: `${y}px`,
    width: `${width}px`,
    height: `${height}px`,
  });
  guide.firstElementChild.textContent = says;
}

export function hideGuide() {
  guide.hidden = true;
}
