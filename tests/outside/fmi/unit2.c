/* A unit for co-simulation written from the text of FMI 2.0.4 (from memory), not made by Ovrand: a tank that is filled, with variables of every type. By "trouble" it does what units must not do. */
#include <stdlib.h>
#include <string.h>
#include <math.h>
#include <stddef.h>
typedef void *Component;
typedef const char *String;
typedef enum { OK, Warning, Discard, Error, Fatal, Pending } Status;
typedef struct {
  void (*logger)(void *, String, Status, String, String, ...);
  void *(*allocate)(size_t, size_t);
  void (*release)(void *);
  void (*finished)(void *, Status);
  void *environment;
} Callbacks;
typedef struct { double inflow, level, area, time; int open, count, mode, full, trouble; int isInitialized; char name[64]; const Callbacks *callbacks; } Tank;
#define EXPORT __attribute__((visibility("default")))

EXPORT String fmi2GetTypesPlatform(void){return "default";}
EXPORT String fmi2GetVersion(void){return "2.0";}
EXPORT Component fmi2Instantiate(String name,int type,String guid,String resources,const Callbacks *callbacks,int visible,int logging){
  (void)visible;(void)logging;
  if(type!=1||strcmp(guid,"{tank-by-hand}")!=0||strncmp(resources,"file:///",8)!=0)return 0;
  Tank *t=callbacks->allocate(1,sizeof *t);
  t->callbacks=callbacks;t->area=2.0;strncpy(t->name,name,sizeof t->name-1);
  return t;}
EXPORT void fmi2FreeInstance(Component c){Tank *t=c;if(t)t->callbacks->release(t);}
EXPORT Status fmi2SetupExperiment(Component c,int hasTolerance,double tolerance,double start,int hasStop,double stop){(void)hasTolerance;(void)tolerance;(void)hasStop;(void)stop;((Tank*)c)->time=start;return OK;}
EXPORT Status fmi2EnterInitializationMode(Component c){(void)c;return OK;}
EXPORT Status fmi2ExitInitializationMode(Component c){Tank *t=c;t->level=0.5+t->inflow;t->isInitialized=1;return OK;}
EXPORT Status fmi2Terminate(Component c){(void)c;return OK;}
EXPORT Status fmi2GetReal(Component c,const unsigned r[],size_t n,double v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 1:v[i]=t->inflow;break;case 2:v[i]=t->trouble==4&&t->time>1.0?NAN:t->level;break;case 3:v[i]=t->area;break;default:return Error;}return OK;}
EXPORT Status fmi2SetReal(Component c,const unsigned r[],size_t n,const double v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 1:t->inflow=v[i];break;case 3:if(t->isInitialized)return Error;t->area=v[i];break;default:return Error;}return OK;}
EXPORT Status fmi2GetInteger(Component c,const unsigned r[],size_t n,int v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 1:v[i]=t->count;break;case 2:v[i]=t->mode;break;default:return Error;}return OK;}
EXPORT Status fmi2SetInteger(Component c,const unsigned r[],size_t n,const int v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 3:t->trouble=v[i];break;default:return Error;}return OK;}
EXPORT Status fmi2GetBoolean(Component c,const unsigned r[],size_t n,int v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 2:v[i]=t->full;break;default:return Error;}return OK;}
EXPORT Status fmi2SetBoolean(Component c,const unsigned r[],size_t n,const int v[]){Tank *t=c;for(size_t i=0;i<n;i++)switch(r[i]){case 1:t->open=v[i];break;default:return Error;}return OK;}
EXPORT Status fmi2DoStep(Component c,double at,double size,int noSetBefore){
  Tank *t=c;(void)noSetBefore;
  if(fabs(at-t->time)>1e-9)return Error;
  if(at>=1.0)switch(t->trouble){
    case 1:*(volatile int*)0=1;break;
    case 2:for(volatile int i=0;;i++);break;
    case 3:t->callbacks->logger(t->callbacks->environment,t->name,Error,"logStatusError","%s","the pump has seized");return Error;
    case 5:exit(3);
    case 6:return Discard;
    case 7:abort();
  }
  t->level+=size*(t->open?t->inflow:0.0)/t->area;
  t->count++;t->mode=t->level<1.0?1:2;t->full=t->level>2.0;
  t->time=at+size;
  return OK;}
