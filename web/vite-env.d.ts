/// <reference types="vite/client" />
declare module '*?url' {
  const url: string;
  export default url;
}
