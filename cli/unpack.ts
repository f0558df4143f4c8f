export async function unpack(a:string,b:string,c:boolean){return 1}
