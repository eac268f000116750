import re,os,sys
os.chdir('/work/main')
def sub(f, *pairs):
    s=open(f).read()
    for a,b in pairs:
        if a not in s: print('MISSING',f,repr(a[:70])); continue
        s=s.replace(a,b)
    open(f,'w').write(s)
