using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>Reads a tick. What is neither yes nor no is a fault of its field and is not kept as typed: no tick can show it.</summary>
public sealed class YesOrNo : IModelBinder
{
    public Task BindModelAsync(ModelBindingContext context)
    {
        var said = context.ValueProvider.GetValue(context.ModelName);
        if (said == ValueProviderResult.None || string.IsNullOrEmpty(said.FirstValue)) return Task.CompletedTask;
        if (bool.TryParse(said.FirstValue, out var yes))
        {
            context.ModelState.SetModelValue(context.ModelName, said);
            context.Result = ModelBindingResult.Success(yes);
        }
        else if (said.FirstValue == "on") context.Result = ModelBindingResult.Success(true);
        else context.ModelState.AddModelError(context.ModelName, "Say yes or no.");
        return Task.CompletedTask;
    }

    public sealed class Provider : IModelBinderProvider
    {
        public IModelBinder? GetBinder(ModelBinderProviderContext context) => context.Metadata.UnderlyingOrModelType == typeof(bool)
            ? new YesOrNo() : null;
    }
}
