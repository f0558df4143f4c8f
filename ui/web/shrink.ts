// Pictures larger than the server reads are made smaller before they are sent; what the browser cannot decode is sent as it is, and told there.

/** Somewhat below what is read (core/evidence/image.ts). */
const MOST_PIXELS = 15_500_000;
/** Files that small cannot hold so many pixels worth keeping. */
const SMALL_BYTES = 1_500_000;

export async function moderate(file: File): Promise<File> {
  if (file.size < SMALL_BYTES || !("createImageBitmap" in window)) return file;
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    return file;
  }
  const shrunk = Math.sqrt(MOST_PIXELS / (picture.width * picture.height));
  if (shrunk >= 1) return file;
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [Math.floor(picture.width * shrunk), Math.floor(picture.height * shrunk)];
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/jpeg", 0.92));
  return blob ? new File([blob], `${file.name.replace(/\.\w{1,5}$/, "")}.jpg`, { type: "image/jpeg" }) : file;
}
