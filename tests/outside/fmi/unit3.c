/* A unit for co-simulation written from the text of FMI 3.0.2 (from memory), not made by Ovrand: a counter with variables of many types. */
#include <stdlib.h>
#include <string.h>
#include <stdint.h>
#include <stdbool.h>
#include <math.h>
#include <stddef.h>
#include <stdio.h>
typedef enum { OK, Warning, Discard, Error, Fatal } Status;
typedef void (*Log)(void *, Status, const char *, const char *);
typedef struct { double rate, sum, time; float fine; int8_t small; uint16_t word; int64_t big, mode; bool on, over; Log log; double last; } Counter;
#define EXPORT __attribute__((visibility("default")))
EXPORT const char *fmi3GetVersion(void){return "3.0";}
EXPORT void *fmi3InstantiateCoSimulation(const char *name,const char *token,const char *resources,bool visible,bool logging,bool events,bool early,const uint32_t required[],size_t n,void *environment,Log log,void *update){
  (void)name;(void)visible;(void)logging;(void)required;(void)environment;(void)update;
  if(strcmp(token,"counter-by-hand")!=0||events||early||n!=0||resources[strlen(resources)-1]!='/')return 0;
  char file[4096];snprintf(file,sizeof file,"%srate.txt",resources);
  FILE *f=fopen(file,"r");double rate=0;
  if(!f||fscanf(f,"%lf",&rate)!=1){log(0,Error,"","there is no rate.txt among the resources");return 0;}
  fclose(f);
  Counter *c=calloc(1,sizeof *c);c->rate=rate;c->log=log;return c;}
EXPORT void fmi3FreeInstance(void *c){free(c);}
EXPORT Status fmi3EnterInitializationMode(void *c,bool hasTolerance,double tolerance,double start,bool hasStop,double stop){(void)hasTolerance;(void)tolerance;(void)hasStop;(void)stop;((Counter*)c)->time=start;return OK;}
EXPORT Status fmi3ExitInitializationMode(void *c){(void)c;return OK;}
EXPORT Status fmi3Terminate(void *c){(void)c;return OK;}
#define ACCESS(Type, T, NAME, GET, SET) \
EXPORT Status fmi3Get##Type(void *p,const uint32_t r[],size_t n,T v[],size_t m){Counter *c=p;if(n!=m)return Error;for(size_t i=0;i<n;i++)switch(r[i]){GET default:return Error;}return OK;} \
EXPORT Status fmi3Set##Type(void *p,const uint32_t r[],size_t n,const T v[],size_t m){Counter *c=p;(void)c;(void)v;if(n!=m)return Error;for(size_t i=0;i<n;i++)switch(r[i]){SET default:return Error;}return OK;}
ACCESS(Float64,double,,case 2:v[i]=c->sum;break;,)
ACCESS(Float32,float,,case 3:v[i]=c->fine;break;,case 3:c->fine=v[i];break;)
ACCESS(Int8,int8_t,,case 4:v[i]=c->small;break;,case 4:c->small=v[i];break;)
ACCESS(UInt16,uint16_t,,case 5:v[i]=c->word;break;,)
ACCESS(Int64,int64_t,,case 6:v[i]=c->big;break; case 7:v[i]=c->mode;break;,)
ACCESS(Boolean,bool,,case 9:v[i]=c->over;break;,case 8:c->on=v[i];break;)
EXPORT Status fmi3DoStep(void *p,double at,double size,bool noSetBefore,bool *event,bool *end,bool *early,double *last){
  Counter *c=p;(void)noSetBefore;
  if(fabs(at-c->time)>1e-9)return Error;
  if(c->on)c->sum+=c->rate*size*(1.0+c->small)+(double)c->fine;
  c->word+=1000;c->big=(int64_t)(c->sum*1e3);c->mode=c->on?2:1;c->over=c->sum>3.0;
  c->time=at+size;*event=false;*early=false;*end=c->sum>100.0;*last=c->time;
  return OK;}
